// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

/** How many rows are shown of those that are counted. */
public final class Samples {

    /** Of each line of an impact. */
    public static final int ROWS = 3;

    /** Selected rows that are shown whole, where there are no more; keys that are missing. */
    public static final int RECORDS = 20;

    private Samples() {}
}
