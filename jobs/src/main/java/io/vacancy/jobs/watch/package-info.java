// SPDX-License-Identifier: Apache-2.0
/** How jobs stand, and who hears of it. */
@NullMarked
package io.vacancy.jobs.watch;

import org.jspecify.annotations.NullMarked;
