// SPDX-License-Identifier: Apache-2.0
/** Telling people and systems that a job is over. */
@NullMarked
package io.vacancy.jobs.notice;

import org.jspecify.annotations.NullMarked;
