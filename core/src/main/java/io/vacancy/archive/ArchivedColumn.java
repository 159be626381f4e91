// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.internal.argument.Arguments;

/**
 * A column as it was when an image was made.
 *
 * @param declared its type as the database wrote it
 * @param encrypted whether its values are encrypted by the keys of persons
 */
public record ArchivedColumn(String name, String declared, boolean encrypted) {

    public ArchivedColumn {
        Arguments.notBlank(name, "name");
        Arguments.notNull(declared, "declared");
    }

    /** One whose values are as they were. */
    public ArchivedColumn(String name, String declared) {
        this(name, declared, false);
    }

    /** Stands before the name where the column has what a link held. */
    public static final String OLD = "old:";

    /** Stands before the name where the column has what was written into a link, not what was there before. */
    public static final String WRITTEN = "written:";
}
