// SPDX-License-Identifier: Apache-2.0
/** A small web application: lists of the harbour office, from which people delete and restore. */
@NullMarked
package io.vacancy.examples.office;

import org.jspecify.annotations.NullMarked;
