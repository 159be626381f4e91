// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

/** How much a store has to tell of what it finds. */
public enum Detail {
    /** Nobody is shown it: the counts of what was done are enough, and what has no rows of its own need not be looked at. */
    COUNTS,
    /** It is compared with what was shown: the fingerprint as well. */
    COMPARED,
    /** Somebody is shown it: a few rows of each effect as well. */
    SHOWN
}
