// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.jobs.internal.store.ShownRow;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import java.util.stream.Stream;

/**
 * The rows that a request selects, on the way into the database. They go through a file of which only this user can read,
 * since some engines cannot be written to while they are read, and memory is bounded.
 *
 * @param rows how many there are
 */
public record SelectedRows(Path file, long rows) implements AutoCloseable {

    /**
     * Reads them.
     *
     * @param digested whether they are to be compared with what is there later
     */
    public static SelectedRows of(Vacancy vacancy, Request request, List<String> identity, boolean digested) {
        try {
            Path file = Files.createTempFile("vacancy-job-", ".jsonl");
            long rows = 0;
            try (BufferedWriter out = Files.newBufferedWriter(file);
                    Stream<Row> selected = vacancy.rows(request)) {
                for (Iterator<Row> each = selected.iterator(); each.hasNext(); rows++) {
                    out.write(ShownRow.of(each.next(), identity, digested).line());
                    out.write('\n');
                }
            } catch (IOException | RuntimeException failed) {
                Files.deleteIfExists(file);
                throw failed;
            }
            return new SelectedRows(file, rows);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** Reads what is kept, one row a line. */
    public BufferedReader reader() {
        try {
            return Files.newBufferedReader(file);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    @Override
    public void close() {
        try {
            Files.deleteIfExists(file);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
