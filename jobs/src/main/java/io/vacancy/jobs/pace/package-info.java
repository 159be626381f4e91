// SPDX-License-Identifier: Apache-2.0
/** How fast jobs work, and how large their transactions are. */
@NullMarked
package io.vacancy.jobs.pace;

import org.jspecify.annotations.NullMarked;
