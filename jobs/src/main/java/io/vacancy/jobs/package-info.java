// SPDX-License-Identifier: Apache-2.0
/** Large deletions as jobs: ordered, carried out in batches, watched. */
@NullMarked
package io.vacancy.jobs;

import org.jspecify.annotations.NullMarked;
