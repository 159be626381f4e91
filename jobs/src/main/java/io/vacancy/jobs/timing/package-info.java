// SPDX-License-Identifier: Apache-2.0
/** When jobs work. */
@NullMarked
package io.vacancy.jobs.timing;

import org.jspecify.annotations.NullMarked;
