// SPDX-License-Identifier: Apache-2.0
/** When and where jobs are picked up. */
@NullMarked
package io.vacancy.jobs.internal.schedule;

import org.jspecify.annotations.NullMarked;
