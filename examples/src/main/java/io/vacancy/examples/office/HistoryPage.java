// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import io.vacancy.Vacancy;
import io.vacancy.trail.TrailEntry;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;

/** What was done and what was not, by whom. */
public final class HistoryPage extends OfficePage {

    private static final int MOST = 100;

    private final transient Vacancy vacancy;

    HistoryPage(Vacancy vacancy) {
        this.vacancy = vacancy;
    }

    /** What the template shows. */
    public record Entries(Frame frame, List<TrailEntry> entries) {}

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
        send(
                response,
                "history",
                new Entries(Frame.of("History"), vacancy.history().page(MOST).entries()));
    }
}
