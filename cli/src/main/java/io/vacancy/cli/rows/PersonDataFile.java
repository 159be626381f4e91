// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.rows;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.json.PersonDataJson;
import io.vacancy.json.saved.PartFile;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashSet;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * Everything that belongs to a person, written to a file that is new: JSON if its name ends in .json, a page if in .html;
 * else to a folder that is new, a CSV file a table. It has its name only once it is complete, and is for its owner alone.
 */
public final class PersonDataFile {

    private final Path path;

    /** @throws MisuseException if there is something of that name already, or no folder to put it in */
    public PersonDataFile(Path path) {
        this.path = path;
        PartFile.check(path, "What belongs to the person");
    }

    /** How much was written. */
    public record Written(long rows, int tables) {}

    /** What takes the rows one by one. */
    private interface Form {
        void take(Row row);

        void end() throws IOException;
    }

    /**
     * Writes the rows; those of a table come together.
     *
     * @param title what stands at the top of a page
     * @param texts what becomes of texts in CSV
     */
    public Written write(Stream<Row> rows, String title, String database, Schema schema, UnaryOperator<String> texts) {
        String name = path.toString();
        try {
            if (name.endsWith(".json")) {
                return file(rows, to -> {
                    PersonDataJson json = new PersonDataJson(to, database);
                    return form(json::take, json::end);
                });
            }
            if (name.endsWith(".html")) {
                return file(rows, to -> {
                    PersonPage page = new PersonPage(to, title);
                    return form(page::take, page::end);
                });
            }
            return folder(rows, schema, texts);
        } catch (UncheckedIOException failed) {
            throw unwritable(Objects.requireNonNull(failed.getCause()));
        } catch (IOException failed) {
            throw unwritable(failed);
        }
    }

    private MisuseException unwritable(IOException failed) {
        return new MisuseException(
                "What belongs to the person cannot be written to " + path + ": " + FileTrouble.message(failed) + ".",
                "Give a name in a folder that is there and may be written to.");
    }

    private static Form form(Consumer<Row> take, Runnable end) {
        return new Form() {
            @Override
            public void take(Row row) {
                take.accept(row);
            }

            @Override
            public void end() {
                end.run();
            }
        };
    }

    private Written file(Stream<Row> rows, Function<Writer, Form> forms) throws IOException {
        PartFile file = new PartFile(path);
        boolean complete = false;
        try {
            Written written;
            try (Writer to = Files.newBufferedWriter(
                    file.create(), StandardCharsets.UTF_8, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS)) {
                Form form = forms.apply(to);
                written = all(rows, form);
                form.end();
            }
            file.complete();
            complete = true;
            return written;
        } finally {
            if (!complete) {
                file.discard();
            }
        }
    }

    private static Written all(Stream<Row> rows, Form form) {
        Set<String> tables = new HashSet<>();
        long[] count = new long[1];
        rows.forEach(row -> {
            tables.add(row.table().toString());
            count[0]++;
            form.take(row);
        });
        return new Written(count[0], tables.size());
    }

    /** Under a name of its own until it is complete. */
    private Written folder(Stream<Row> rows, Schema schema, UnaryOperator<String> texts) throws IOException {
        Path folder = path.toAbsolutePath();
        Path part = Files.createTempDirectory(folder.getParent(), folder.getFileName() + ".");
        CsvFolder files = new CsvFolder(part, schema, texts);
        boolean complete = false;
        try {
            Written written = all(rows, files);
            files.end();
            Files.move(part, folder);
            complete = true;
            return written;
        } finally {
            if (!complete) {
                files.discard();
            }
        }
    }

    /** A CSV file a table. */
    private static final class CsvFolder implements Form {

        private final Path folder;
        private final Schema schema;
        private final UnaryOperator<String> texts;
        private final Set<String> names = new HashSet<>();
        private String table = "";
        private Writer to = Writer.nullWriter();
        private RowWriter rows = RowWriter.jsonLines(to);

        CsvFolder(Path folder, Schema schema, UnaryOperator<String> texts) {
            this.folder = folder;
            this.schema = schema;
            this.texts = texts;
        }

        @Override
        public void take(Row row) {
            String of = row.table().toString();
            try {
                if (!of.equals(table)) {
                    to.close();
                    table = of;
                    to = Files.newBufferedWriter(
                            folder.resolve(fileName(of)), StandardCharsets.UTF_8, StandardOpenOption.CREATE_NEW);
                    rows = RowWriter.csv(
                            to,
                            schema.table(row.table()).columns().stream()
                                    .map(column -> column.name())
                                    .toList(),
                            texts);
                }
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
            rows.write(row);
        }

        /** A name of a table may have characters that names of files have not, and two may be the same without them. */
        private String fileName(String table) {
            String plain = table.replaceAll("[^\\p{L}\\p{N}._-]", "_");
            String name = plain;
            for (int i = 2; !names.add(name.toLowerCase(Locale.ROOT)); i++) {
                name = plain + "-" + i;
            }
            return name + ".csv";
        }

        @Override
        public void end() throws IOException {
            to.close();
        }

        void discard() throws IOException {
            to.close();
            try (Stream<Path> files = Files.list(folder)) {
                for (Path file : files.toList()) {
                    Files.delete(file);
                }
            }
            Files.delete(folder);
        }
    }
}
