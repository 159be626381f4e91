// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

/** What happens to child rows. */
public enum Then {
    /** They are deleted as well. */
    CASCADE,
    /** They are removed for good though their parent is only marked. */
    ERASE,
    /** They stop the deletion. */
    BLOCK,
    /** They stay and refer to nothing. */
    SET_NULL,
    /** They get another parent. */
    REASSIGN,
    /** They stay and refer to nothing, and their {@link Personal} attributes are emptied or replaced. */
    BLANK,
    /** They stay as they are; only where no database enforces the relation, or nothing is erased. */
    LEAVE
}
