// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.schema.ColumnType;
import java.util.List;

/** Columns of an image as JSON: a list of name and type, and whether it is encrypted. */
final class ArchivedColumns {

    private static final ObjectMapper MAPPER = new ObjectMapper();

    private static final String ENCRYPTED = "encrypted";

    private ArchivedColumns() {}

    /** The type of what a cell of the column holds. */
    static ColumnType cellType(ArchivedColumn column, Dialect dialect) {
        return column.encrypted()
                ? RowEncryption.textType(dialect)
                : dialect.catalogue().reader().type(column.declared());
    }

    static String written(List<ArchivedColumn> columns) {
        return json(columns.stream()
                .map(column -> column.encrypted()
                        ? List.of(column.name(), column.declared(), ENCRYPTED)
                        : List.of(column.name(), column.declared()))
                .toList());
    }

    static List<ArchivedColumn> read(String json) {
        try {
            return MAPPER.readValue(json, new TypeReference<List<List<String>>>() {}).stream()
                    .map(column -> new ArchivedColumn(
                            column.get(0),
                            column.get(1),
                            column.size() > 2 && column.get(2).equals(ENCRYPTED)))
                    .toList();
        } catch (JsonProcessingException broken) {
            throw new IllegalStateException("the columns of an image are kept in no form that is known", broken);
        }
    }

    /** A list of texts. */
    static String json(List<?> texts) {
        try {
            return MAPPER.writeValueAsString(texts);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** The list of texts again. */
    static List<String> texts(String json) {
        try {
            return MAPPER.readValue(json, new TypeReference<List<String>>() {});
        } catch (JsonProcessingException broken) {
            throw new IllegalStateException("a key is kept in no form that is known", broken);
        }
    }

    /** The number by which a kind is kept; it stays the same whatever kinds there will be. */
    static int number(ArchivedRows.Kind kind) {
        return switch (kind) {
            case ROWS -> 0;
            case LINKS -> 1;
            case MARKS -> 2;
            case VALUES -> 3;
        };
    }

    static ArchivedRows.Kind kind(int number) {
        for (ArchivedRows.Kind kind : ArchivedRows.Kind.values()) {
            if (number(kind) == number) {
                return kind;
            }
        }
        throw new IllegalStateException("an archived line of kind " + number);
    }
}
