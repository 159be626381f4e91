// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.web.DeletionPages;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.stream.Stream;

/** What can be restored, newest first. */
public final class ArchivePage extends OfficePage {

    private static final int MOST = 100;

    private final transient Vacancy vacancy;
    private final transient DeletionPages pages;

    ArchivePage(Vacancy vacancy, DeletionPages pages) {
        this.vacancy = vacancy;
        this.pages = pages;
    }

    /** What the template shows. */
    public record Archived(Frame frame, List<ArchivedRows> rows, String token) {}

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
        try (Stream<ArchivedRows> rows = vacancy.archive().rows(ArchiveQuery.all())) {
            List<ArchivedRows> boats = rows.filter(row -> row.relation() == null && row.there() > 0)
                    .limit(MOST)
                    .toList();
            send(response, "archive", new Archived(Frame.of("Archive"), boats, pages.token()));
        }
    }
}
