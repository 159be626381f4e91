// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import java.util.Locale;

/** H2: how rows are kept as images. */
final class H2RowImages implements RowImages {

    @Override
    public RowImageEncoding encoding() {
        return new H2RowImageEncoding();
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return switch (H2RowImageEncoding.place(type)) {
            case "lists" -> "CAST(" + value + " AS VARCHAR ARRAY)";
            case "bytes", "texts" -> value;
            default -> RowImages.super.toCell(value, type);
        };
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        return type.declared().toUpperCase(Locale.ROOT).startsWith("JSON")
                ? cell + " FORMAT JSON"
                : RowImages.super.fromCell(cell, type);
    }

    @Override
    public String toCopy(String value, ColumnType type) {
        return H2RowImageEncoding.place(type).equals("lists") ? value : RowImages.super.toCopy(value, type);
    }

    @Override
    public String fromCopy(ColumnType type) {
        return H2RowImageEncoding.place(type).equals("lists")
                ? "CAST(? AS " + type.declared() + ")"
                : RowImages.super.fromCopy(type);
    }
}
