// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.rows.RowWriter;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.json.saved.PartFile;
import io.vacancy.listener.RowHandler;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * A file of the records that are deleted: CSV if its name ends in .csv, else JSON Lines. It gets its name only once they
 * are committed; until then there is at most a file whose name ends in .part.
 */
final class RecordsFile implements RowHandler, AutoCloseable {

    private final PartFile file;
    private final boolean csv;
    private final Table table;
    private final UnaryOperator<String> texts;
    private @Nullable BufferedWriter out;
    private @Nullable RowWriter rows;

    RecordsFile(Path file, Table table, UnaryOperator<String> texts) {
        this.texts = texts;
        this.file = new PartFile(file);
        this.csv = file.toString().endsWith(".csv");
        this.table = table;
    }

    @Override
    public void begin() {
        try {
            close();
            out = Files.newBufferedWriter(
                    file.create(), StandardCharsets.UTF_8, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS);
            rows = csv
                    ? RowWriter.csv(
                            out, table.columns().stream().map(Column::name).toList(), texts)
                    : RowWriter.jsonLines(out);
        } catch (IOException failed) {
            throw new MisuseException(
                    "The records cannot be written to " + file.part() + ": " + FileTrouble.message(failed) + ".");
        }
    }

    @Override
    public void take(Row row) {
        if (rows != null) {
            rows.write(row);
        }
    }

    @Override
    public void committed() {
        try {
            if (out != null) {
                out.close();
                out = null;
                file.complete();
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + file.part() + " could not be closed", failed);
        }
    }

    /** Nobody knows whether they are deleted: what is written stays, under a name that ends in .part. */
    void leave() {
        try {
            if (out != null) {
                out.close();
                out = null;
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + file.part() + " could not be closed", failed);
        }
    }

    @Override
    public void close() {
        try {
            if (out != null) {
                out.close();
                out = null;
                file.discard();
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + file.part() + " could not be closed", failed);
        }
    }
}
