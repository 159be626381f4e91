// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What an image of a row has: its columns, and the cells they go into. */
record Image(List<ArchivedColumn> columns, List<Sql> cells, List<ColumnType> types) {

    /**
     * In cells, for the table of images.
     *
     * @param encryption of what is personal, or null
     */
    static Image of(RowsToArchive taken, Dialect dialect, @Nullable RowEncryption encryption) {
        return of(taken, dialect, dialect.images()::toCell, encryption);
    }

    /** As it is read from the database, for a copy outside of it. */
    static Image copied(RowsToArchive taken, Dialect dialect) {
        return of(taken, dialect, dialect.images()::toCopy, null);
    }

    private interface Form {
        String of(String value, ColumnType type);
    }

    private static Image of(RowsToArchive taken, Dialect dialect, Form form, @Nullable RowEncryption encryption) {
        Image image = new Image(new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
        if (taken.kind() == ArchivedRows.Kind.ROWS) {
            refuseUnknown(taken.table(), dialect);
            taken.table().columns().forEach(column -> image.add(column, "", dialect, form, encryption));
            return image;
        }
        // By its key the row is found again; the link is put back only while it holds what was written.
        for (String key : taken.table().identity().columns()) {
            image.add(taken.table().column(key), "", stored(taken.table().column(key), dialect), form);
        }
        taken.changed().forEach((name, written) -> {
            Column column = taken.table().column(name);
            image.add(column, ArchivedColumn.OLD, dialect, form, encryption);
            written.ifPresent(value -> image.add(column, ArchivedColumn.WRITTEN, value, form));
        });
        return image;
    }

    private static void refuseUnknown(Table table, Dialect dialect) {
        for (Column column : table.columns()) {
            if (!dialect.images().archives(column.type())) {
                throw new MisuseException(
                        "Values of " + table + "." + column.name() + ", which are "
                                + column.type().declared() + ", cannot be archived on " + dialect.name() + ".",
                        "Have the rule book archive none of its rows, or delete without an archive.");
            }
        }
    }

    private static Sql stored(Column column, Dialect dialect) {
        return Sql.of("t." + dialect.syntax().quote(column.name()));
    }

    private void add(Column column, String before, Dialect dialect, Form form, @Nullable RowEncryption encryption) {
        Sql encrypted = encryption == null ? null : encryption.value(column.name());
        if (encryption == null || encrypted == null) {
            add(column, before, stored(column, dialect), form);
        } else {
            columns.add(new ArchivedColumn(before + column.name(), column.type().declared(), true));
            cell(encrypted, encryption.type(), form);
        }
    }

    private void add(Column column, String before, Sql value, Form form) {
        columns.add(new ArchivedColumn(before + column.name(), column.type().declared()));
        cell(value, column.type(), form);
    }

    private void cell(Sql value, ColumnType type, Form form) {
        types.add(type);
        String[] around = form.of("\0", type).split("\0", -1);
        Sql cell = Sql.of(around[0]);
        for (int i = 1; i < around.length; i++) {
            cell.add(value).add(around[i]);
        }
        cells.add(cell);
    }

    /** The values of the columns that hold cells, each with a comma before it. */
    Sql packed(Dialect dialect) {
        List<String> places = new ArrayList<>();
        for (int i = 0; i < cells.size(); i++) {
            places.add("\0" + i + "\0");
        }
        Sql packed = new Sql();
        for (String part : dialect.images().encoding().packed(places, types)) {
            packed.add(", ");
            String[] pieces = part.split("\0", -1);
            for (int i = 0; i < pieces.length; i++) {
                if (i % 2 == 0) {
                    packed.add(pieces[i]);
                } else {
                    packed.add(cells.get(Integer.parseInt(pieces[i])));
                }
            }
        }
        return packed;
    }
}
