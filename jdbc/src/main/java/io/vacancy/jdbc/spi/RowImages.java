// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How rows are kept as images. The defaults are standard SQL. */
public interface RowImages {

    /** Whether the rows that a DELETE removes can go into another table with the same statement. */
    default boolean keepsWhileDeleting() {
        return false;
    }

    /** Whether values of a type can be archived and come back as they were. */
    default boolean archives(ColumnType type) {
        return true;
    }

    /** How images hold values. */
    RowImageEncoding encoding();

    /** A value as it stands in a cell. */
    default String toCell(String value, ColumnType type) {
        return "CAST(" + value + " AS VARCHAR)";
    }

    /** The value in a cell, of a column's type again. */
    default String fromCell(String cell, ColumnType type) {
        return "CAST(" + cell + " AS " + type.declared() + ")";
    }

    /**
     * That the value in a cell is none that the engine takes into a column of the type, though it was in one; {@link
     * #fromCell} makes NULL of it then. Null where there are no such values.
     */
    default @Nullable String refused(String cell, ColumnType type) {
        return null;
    }

    /** A cell as a text that no other cell has, for digests. */
    default String cellText(String cell, ColumnType type) {
        return cell;
    }

    /**
     * An aggregate: SHA-256, in hexadecimal digits, over the SHA-256 of each image in the order of its number.
     *
     * @param image the alias of the table of images
     * @param texts of its cells
     * @return null where images are read and digested by Vacancy
     */
    default @Nullable String digest(String image, List<String> texts) {
        return null;
    }

    /** What a statement begins with that has {@link #digest}. */
    default String digesting() {
        return "";
    }

    /** A value as it is read into a copy outside the database; what has no kind of its own is read as its cell. */
    default String toCopy(String value, ColumnType type) {
        return type.kind() == ValueKind.OTHER ? toCell(value, type) : value;
    }

    /** A value of a copy, which takes the place of the question mark. */
    default String fromCopy(ColumnType type) {
        return type.kind() == ValueKind.OTHER ? fromCell("?", type) : "?";
    }
}
