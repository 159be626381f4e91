// SPDX-License-Identifier: Apache-2.0
/** Figures of jobs for Micrometer, which the application brings. */
@NullMarked
package io.vacancy.jobs.meters;

import org.jspecify.annotations.NullMarked;
