// SPDX-License-Identifier: Apache-2.0
/** What becomes of an order: a job, or an objection. */
@NullMarked
package io.vacancy.jobs.submit;

import org.jspecify.annotations.NullMarked;
