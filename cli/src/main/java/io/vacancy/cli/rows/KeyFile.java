// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.rows;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.BoundedLines;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.schema.Table;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.QuoteMode;
import org.jspecify.annotations.Nullable;

/**
 * Reads keys from a file: one a line, or CSV (RFC 4180) whose header names the table's key columns, in any
 * order and among others. Which of the two it is the first line says.
 */
public final class KeyFile {

    private static final int LONGEST_LINE = 1_000_000;
    /** What is empty and not in quotation marks is read as null. */
    private static final CSVFormat ROWS =
            CSVFormat.RFC4180.builder().setQuoteMode(QuoteMode.ALL_NON_NULL).get();

    private static final char BYTE_ORDER_MARK = '\ufeff';

    private final Table table;
    private final String name;
    private final KeyList.Packing keys = new KeyList.Packing();

    private KeyFile(Table table, String name) {
        this.table = table;
        this.name = name;
    }

    /**
     * Reads all keys.
     *
     * @param name what the file is called in messages
     * @throws MisuseException if it holds none, or one that is none of the table, with the line from 1
     */
    public static KeyList read(Reader text, String name, Table table) {
        KeyFile file = new KeyFile(table, name);
        try (BufferedReader lines = new BufferedReader(text)) {
            file.read(lines);
        } catch (BoundedLines.TooLongException tooLong) {
            throw new MisuseException(
                    "In " + name + ", " + tooLong.getMessage() + ", and no key is that long.",
                    "Give a text file with one key a line, or CSV with a header.");
        } catch (IOException failed) {
            throw new MisuseException(
                    "The keys cannot be read from " + name + ": " + FileTrouble.message(failed) + ".",
                    "Give a text file with one key a line, or CSV with a header.");
        }
        KeyList read = file.keys.packed();
        if (read.size() == 0) {
            throw new MisuseException(
                    "There is no key in " + name + ", so nothing is selected.",
                    "An empty list of keys never means every row.");
        }
        return read;
    }

    private void read(BufferedReader lines) throws IOException {
        BoundedLines bounded = new BoundedLines(lines, LONGEST_LINE);
        String first = bounded.next();
        if (first == null) {
            return;
        }
        first = first.isEmpty() || first.charAt(0) != BYTE_ORDER_MARK ? first : first.substring(1);
        List<String> header = header(first);
        if (header.isEmpty()) {
            int number = 1;
            for (String line = first; line != null; line = bounded.next()) {
                plain(line, number++);
            }
        } else {
            records(lines, header);
        }
    }

    /** The columns that the first line names; none if it is a key itself. */
    private List<String> header(String first) throws IOException {
        try (CSVParser parser = CSVParser.parse(first, CSVFormat.RFC4180)) {
            List<String> names = parser.stream().findFirst().map(CSVRecord::toList).orElse(List.of()).stream()
                    .map(String::strip)
                    .toList();
            boolean named = table.identity().columns().stream()
                    .allMatch(column -> names.stream().anyMatch(column::equalsIgnoreCase));
            if (!named && names.size() > 1 && names.stream().allMatch(table::has)) {
                throw new MisuseException(name + ", line 1: the header lacks "
                        + String.join(", ", table.identity().columns()) + ", by which rows of " + table
                        + " are named.");
            }
            List<String> twice = table.identity().columns().stream()
                    .filter(column ->
                            names.stream().filter(column::equalsIgnoreCase).count() > 1)
                    .toList();
            if (named && !twice.isEmpty()) {
                throw new MisuseException(name + ", line 1: the header names " + String.join(", ", twice) + " twice.");
            }
            return named ? names : List.of();
        } catch (CSVException | UncheckedIOException noCsv) {
            return List.of();
        }
    }

    private void plain(String line, int number) {
        if (!line.isBlank()) {
            add(Key.of(line.strip()), number);
        }
    }

    private void records(Reader rest, List<String> header) throws IOException {
        long line = 1;
        try (CSVParser parser = CSVParser.parse(rest, ROWS)) {
            for (CSVRecord row : parser) {
                line = parser.getCurrentLineNumber() + 1;
                String only = row.get(0);
                boolean blank = row.size() == 1 && (only == null || only.isBlank());
                if (blank) {
                    continue;
                }
                if (row.size() != header.size()) {
                    throw new MisuseException(name + ", line " + line + ": there are " + row.size()
                            + " values, and the header names " + header.size() + ".");
                }
                Map<String, Object> parts = new LinkedHashMap<>();
                for (String column : table.identity().columns()) {
                    for (int i = 0; i < header.size(); i++) {
                        if (header.get(i).equalsIgnoreCase(column)) {
                            parts.put(column, SpreadsheetText.unguarded(present(row.get(i), column, line)));
                        }
                    }
                }
                add(new Key(parts), line);
            }
        } catch (UncheckedIOException malformed) {
            throw noCsv(line, malformed.getCause());
        } catch (CSVException malformed) {
            throw noCsv(line, malformed);
        }
    }

    /** A hole in a list is no key; an empty text that is one has quotation marks. */
    private String present(@Nullable String value, String column, long line) {
        if (value == null) {
            throw new MisuseException(
                    name + ", line " + line + ": " + column + " is empty.",
                    "Fill it in or leave the line out; where the key is an empty text, write \"\".");
        }
        return value;
    }

    private MisuseException noCsv(long line, @Nullable Exception why) {
        return new MisuseException(
                name + ", after line " + line + ": this is no CSV" + (why == null ? "" : ": " + why.getMessage()) + ".",
                "Put texts with commas or quotation marks into quotation marks, and double those inside.");
    }

    /** Read as the key's columns at once: a wrong one can still say its line, and numbers are packed best. */
    private void add(Key key, long line) {
        try {
            keys.add(Key.of(table.identity().columns(), key.valuesFor(table)));
        } catch (MisuseException wrong) {
            throw new MisuseException(name + ", line " + line + ": " + wrong.getMessage(), wrong.hint());
        }
    }
}
