// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.saved;

import com.fasterxml.jackson.databind.JsonNode;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.text.BoundedLines;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.json.internal.RowJson;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.trail.MacKey;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A file that {@link SavedFileWriter} wrote. Immutable; the file is read anew each time. */
public final class SavedFile implements SavedSource {

    private static final String NOTHING = "Nothing is restored from ";

    /** Of a line, in characters: a row with all of its values. */
    private static final int LONGEST_LINE = 64_000_000;

    private final Path file;
    private final @Nullable MacKey key;
    private final SavedRows form;
    private final ReceiptId receipt;
    private final List<ArchivedRows> lines;

    private SavedFile(Path file, @Nullable MacKey key, ReceiptId receipt, List<ArchivedRows> lines) {
        this.file = file;
        this.key = key;
        this.form = new SavedRows(key);
        this.receipt = receipt;
        this.lines = lines;
    }

    /**
     * Reads the first line of a file that is not sealed; the rows are read, and held against their digests, when they
     * are restored.
     *
     * @throws MisuseException if there is no such file, or it is none of saved rows
     */
    public static SavedFile open(Path file) {
        return opened(file, null);
    }

    /**
     * The same of a file that was sealed.
     *
     * @param key that it was written with
     * @throws MisuseException if there is no such file, it is none of saved rows, or none that was written with the key
     */
    public static SavedFile open(Path file, MacKey key) {
        return opened(file, Arguments.notNull(key, "key"));
    }

    private static SavedFile opened(Path file, @Nullable MacKey key) {
        Arguments.notNull(file, "file");
        try (BufferedReader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
            String first = new BoundedLines(in, LONGEST_LINE).next();
            if (first != null && key == null && SavedRows.sealed(first)) {
                throw new MisuseException(
                        NOTHING + file + ": it is sealed with a secret, and none was given.",
                        "Give the secret that it was saved with.");
            }
            if (first != null && key != null && !SavedRows.sealed(first)) {
                throw new MisuseException(
                        NOTHING + file + ": it is not sealed, and a secret was given that it should be sealed with.",
                        "Leave the secret out if anybody may have written it, and name the tables it may be restored into.");
            }
            JsonNode header = node(file, new SavedRows(key), 1, first, "");
            return new SavedFile(file, key, ReceiptId.of(StrictJson.text(header, "receipt")), SavedRows.lines(header));
        } catch (IllegalArgumentException | DateTimeException | MisuseException wrong) {
            if (wrong instanceof MisuseException told
                    && String.valueOf(told.getMessage()).startsWith(NOTHING)) {
                throw told;
            }
            throw broken(file, 1, "its first line is not that of a file of saved rows: " + wrong.getMessage());
        } catch (IOException failed) {
            throw new MisuseException("The file " + file + " cannot be read: " + FileTrouble.message(failed) + ".");
        }
    }

    @Override
    public ReceiptId receipt() {
        return receipt;
    }

    @Override
    public String name() {
        return file.toString();
    }

    @Override
    public boolean authenticated() {
        return key != null;
    }

    @Override
    public List<ArchivedRows> lines() {
        return lines;
    }

    @Override
    public void each(Schema schema, Taker taker) {
        Map<Integer, TableName> tables = new HashMap<>();
        lines.forEach(line -> tables.put(line.line(), line.table()));
        try (BufferedReader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
            BoundedLines text = new BoundedLines(in, LONGEST_LINE);
            String check = "";
            long number = 0;
            long rows = 0;
            boolean ended = false;
            for (String line = text.next(); line != null; line = text.next()) {
                number++;
                JsonNode node = node(file, form, number, ended ? null : line, check);
                check = String.valueOf(form.verified(line, check));
                if (node.has("row")) {
                    rows++;
                    int of = node.path("line").isInt() ? node.path("line").intValue() : -1;
                    TableName table = tables.get(of);
                    if (table == null) {
                        throw broken(file, number, "it is of no table that the first line names");
                    }
                    taker.take(of, row(table, node, number));
                } else if (node.has("rows")) {
                    ended = node.path("rows").asLong() == rows;
                }
            }
            if (!ended) {
                throw broken(file, number + 1, "the file ends there, and rows are missing");
            }
        } catch (IOException failed) {
            throw new MisuseException("The file " + file + " cannot be read: " + FileTrouble.message(failed) + ".");
        }
    }

    private Row row(TableName table, JsonNode node, long number) {
        try {
            return new Row(table, RowJson.values(node.path("row")));
        } catch (MisuseException wrong) {
            throw broken(file, number, String.valueOf(wrong.getMessage()));
        }
    }

    private static JsonNode node(Path file, SavedRows form, long number, @Nullable String line, String before) {
        if (line == null || form.verified(line, before) == null) {
            throw broken(
                    file,
                    number,
                    line == null && number == 1
                            ? "the file is empty"
                            : number == 1
                                    ? "it is not the first line of a file of saved rows, or was altered"
                                    : "the line was altered, or one before it is missing");
        }
        try {
            return RowJson.read(line);
        } catch (MisuseException wrong) {
            throw broken(file, number, String.valueOf(wrong.getMessage()));
        }
    }

    private static MisuseException broken(Path file, long number, String why) {
        return new MisuseException(
                NOTHING + file + ": line " + number + " is not as it was written: " + why
                        + (why.endsWith(".") ? "" : "."),
                "Take the file from a copy that is whole.");
    }
}
