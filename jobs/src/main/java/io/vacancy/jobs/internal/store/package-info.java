// SPDX-License-Identifier: Apache-2.0
/** Jobs as they are kept in the database. */
@NullMarked
package io.vacancy.jobs.internal.store;

import org.jspecify.annotations.NullMarked;
