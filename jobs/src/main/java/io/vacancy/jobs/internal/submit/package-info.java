// SPDX-License-Identifier: Apache-2.0
/** Carrying out a job, batch by batch. */
@NullMarked
package io.vacancy.jobs.internal.submit;

import org.jspecify.annotations.NullMarked;
