// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;

/** Texts, each in a column; bytes as hexadecimal digits. */
final class HsqldbRowImages implements RowImages {

    @Override
    public RowImageEncoding encoding() {
        return new RowImageEncoding.OwnColumns("LONGVARCHAR", null);
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return type.kind() == ValueKind.BINARY ? "RAWTOHEX(" + value + ")" : "CAST(" + value + " AS LONGVARCHAR)";
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        return type.kind() == ValueKind.BINARY
                ? "CAST(HEXTORAW(" + cell + ") AS " + type.declared() + ")"
                : "CAST(" + cell + " AS " + type.declared() + ")";
    }
}
