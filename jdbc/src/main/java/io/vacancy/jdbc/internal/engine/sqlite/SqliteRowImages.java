// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;

/** SQLite: how rows are kept as images. */
final class SqliteRowImages implements RowImages {

    /** Columns without a type keep what they are given as it is. */
    @Override
    public RowImageEncoding encoding() {
        return new RowImageEncoding.OwnColumns("");
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
