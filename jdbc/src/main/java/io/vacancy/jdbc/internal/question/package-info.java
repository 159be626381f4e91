// SPDX-License-Identifier: Apache-2.0
/** Questions that wait for their answer. */
@NullMarked
package io.vacancy.jdbc.internal.question;

import org.jspecify.annotations.NullMarked;
