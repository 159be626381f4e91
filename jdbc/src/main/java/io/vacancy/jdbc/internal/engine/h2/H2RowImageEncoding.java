// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;

/** Arrays, of which each takes what the others cannot: short texts, long ones, bytes, and arrays themselves. */
final class H2RowImageEncoding extends RowImageEncoding {

    private static final List<String> NAMES = List.of("cells", "texts", "bytes", "lists");

    @Override
    public List<String> definitions() {
        return List.of(
                "cells VARCHAR ARRAY",
                "texts CHARACTER LARGE OBJECT ARRAY",
                "bytes BINARY LARGE OBJECT ARRAY",
                "lists VARCHAR ARRAY ARRAY");
    }

    @Override
    public List<String> columns(int cells) {
        return NAMES;
    }

    @Override
    public List<String> packed(List<String> cells, List<ColumnType> types) {
        List<String> packed = new ArrayList<>();
        for (String name : NAMES) {
            List<String> own = new ArrayList<>(Collections.nCopies(cells.size(), "NULL"));
            boolean any = false;
            for (int i = 0; i < cells.size(); i++) {
                if (place(types.get(i)).equals(name)) {
                    own.set(i, cells.get(i));
                    any = true;
                }
            }
            packed.add(any ? "ARRAY[" + String.join(", ", own) + "]" : "NULL");
        }
        return packed;
    }

    @Override
    public String cell(String alias, int index, ColumnType type) {
        return alias + "." + place(type) + "[" + (index + 1) + "]";
    }

    /** Which array takes values of this type. */
    static String place(ColumnType type) {
        String declared = type.declared().toUpperCase(Locale.ROOT);
        if (declared.contains(" ARRAY")) {
            return "lists";
        }
        if (type.kind() == ValueKind.BINARY) {
            return "bytes";
        }
        return declared.startsWith("CHARACTER LARGE OBJECT") || declared.startsWith("CLOB") ? "texts" : "cells";
    }
}
