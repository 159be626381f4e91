// SPDX-License-Identifier: Apache-2.0
/** What a job is to do, and how. */
@NullMarked
package io.vacancy.jobs.order;

import org.jspecify.annotations.NullMarked;
