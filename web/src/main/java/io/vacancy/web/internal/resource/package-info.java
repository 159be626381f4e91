// SPDX-License-Identifier: Apache-2.0
/** One class for each resource. */
@NullMarked
package io.vacancy.web.internal.resource;

import org.jspecify.annotations.NullMarked;
