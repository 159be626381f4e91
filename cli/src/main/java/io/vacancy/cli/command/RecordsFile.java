package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.listener.RowTaker;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.text.rows.RowWriter;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.jspecify.annotations.Nullable;

/**
 * A file of the records that went: CSV if its name ends in .csv, else JSON Lines. It gets its name only once
 * they are gone; until then, and if they stay, there is at most a file of that name with .part behind it.
 */
final class RecordsFile implements RowTaker, AutoCloseable {

    private final Path file;
    private final Path part;
    private final Table table;
    private @Nullable BufferedWriter out;
    private @Nullable RowWriter rows;

    RecordsFile(Path file, Table table) {
        if (Files.exists(file)) {
            throw new MisuseException(file + " exists already, and nothing is overwritten.", "Give another name.");
        }
        this.file = file;
        this.table = table;
        this.part = file.resolveSibling(file.getFileName() + ".part");
    }

    @Override
    public void begin() {
        try {
            close();
            out = Files.newBufferedWriter(part, StandardCharsets.UTF_8);
            rows = file.toString().endsWith(".csv")
                    ? RowWriter.csv(
                            out, table.columns().stream().map(Column::name).toList())
                    : RowWriter.jsonLines(out);
        } catch (IOException failed) {
            throw new MisuseException("The records cannot be written to " + part + ": " + failed.getMessage() + ".");
        }
    }

    @Override
    public void take(Row row) {
        if (rows != null) {
            rows.write(row);
        }
    }

    /** They are gone. */
    void keep() {
        try {
            if (out != null) {
                out.close();
                out = null;
                Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    @Override
    public void close() {
        try {
            if (out != null) {
                out.close();
                out = null;
                Files.deleteIfExists(part);
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
