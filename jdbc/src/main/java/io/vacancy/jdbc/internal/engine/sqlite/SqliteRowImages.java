// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import java.util.List;

/** SQLite: how rows are kept as images. */
final class SqliteRowImages implements RowImages {

    /** Columns without a type keep what they are given as it is. */
    @Override
    public RowImageEncoding encoding() {
        return new RowImageEncoding.OwnColumns("", new InJson());
    }

    /** JSON keeps neither bytes nor every digit, so each value is a text that says what it is. */
    private static final class InJson implements RowImageEncoding.Overflow {

        @Override
        public String toPart(String cell) {
            return "CASE typeof(" + cell + ") WHEN 'null' THEN NULL WHEN 'text' THEN 'T' || hex(" + cell
                    + ") WHEN 'blob' THEN 'B' || hex(" + cell + ") ELSE quote(" + cell + ") END";
        }

        @Override
        public String join(List<String> parts) {
            return "json_array(" + String.join(", ", parts) + ")";
        }

        @Override
        public String part(String joined, int first, int second) {
            String part = "json_extract(" + joined + ", '$[" + first + "][" + second + "]')";
            return "CASE substr(" + part + ", 1, 1) WHEN 'T' THEN CAST(unhex(substr(" + part + ", 2)) AS TEXT)"
                    + " WHEN 'B' THEN unhex(substr(" + part + ", 2)) ELSE CASE WHEN " + part
                    + " GLOB '*[.eE]*' THEN CAST("
                    + part + " AS REAL) ELSE CAST(" + part + " AS INTEGER) END END";
        }
    }

    /** As a literal, which has the value's type. */
    @Override
    public String cellText(String cell, ColumnType type) {
        return "quote(" + cell + ")";
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return value;
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        return cell;
    }
}
