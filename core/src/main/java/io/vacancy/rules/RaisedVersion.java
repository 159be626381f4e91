// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

/**
 * The value of an {@link Assignment} to a column that counts the versions of its row: one more than it holds, 1 where it
 * holds nothing, and the time of the deletion where it is a time.
 */
public enum RaisedVersion {
    /** The next version. */
    NEXT
}
