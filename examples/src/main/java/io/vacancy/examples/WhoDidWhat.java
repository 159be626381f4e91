// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.History;
import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.Verification;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.util.Map;
import java.util.stream.Stream;
import javax.sql.DataSource;

/** Whatever is done or refused is told in the audit history, sealed, and passed on to other systems. */
public class WhoDidWhat {

    public static void main(String[] args) throws Exception {
        DataSource dataSource = Harbour.fresh();
        byte[] secret = "from a safe place".getBytes(StandardCharsets.UTF_8);
        RuleBook rules = RuleBook.build(book -> book.table("skipper", t -> t.personal("name", "email", "phone"))
                .table("boat", t -> t.marker(Marker.date("left_on")))
                .whenSoftDeleted("mooring.boat_id", Rule.leave())
                .whenSoftDeleted("logbook_entry.boat_id", Rule.leave())
                .outbox("/harbour/office"));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(dataSource))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .onBehalfOf(() -> "the skipper")
                .origin(() -> Map.of("page", "/boats/17"))
                .personalKey(secret)
                .sealKey(secret)
                .listener(new Listener() {
                    @Override
                    public void ended(Request request, Outcome outcome) {
                        System.out.println("heard: " + outcome.state().word());
                    }
                })
                .open();
        vacancy.archive().setUp();

        vacancy.execute(Request.softDelete("boat").key(17).expect(1)).receiptOrThrow();
        vacancy.execute(Request.restore("boat").key(17).expect(1)).receiptOrThrow();
        Receipt gone = vacancy.execute(
                        Request.delete("boat").key(17).because("sold").expect(1))
                .receiptOrThrow();
        vacancy.execute(Request.restore(gone.id()).expect(1)).receiptOrThrow();
        vacancy.execute(Request.delete("skipper").key(2).expect(1));

        // What happened to boat 17, newest first, and what it held when it went.
        try (Stream<TrailEntry> told = vacancy.history().of("boat", 17).open()) {
            told.forEach(entry -> System.out.println(entry.kind().word() + " by " + entry.by() + " for "
                    + entry.onBehalfOf() + ", " + entry.rows() + " row"));
        }
        System.out.println(vacancy.image(gone.id(), "boat", 17).orElseThrow().get("name"));

        // Page by page, as a screen shows it.
        History.Page first = vacancy.history().page(2);
        System.out.println(first.entries().get(0).ending().word() + ", because of "
                + first.entries().get(0).reason());
        String next = first.next();
        System.out.println(
                next == null
                        ? 0
                        : vacancy.history().after(next).page(10).entries().size());

        // In the application's own transaction; listeners hear of it once it is committed.
        try (Connection connection = dataSource.getConnection()) {
            connection.setAutoCommit(false);
            Vacancy within = vacancy.within(connection);
            within.execute(Request.delete("fee").key(708).expect(1)).receiptOrThrow();
            connection.commit();
            within.committed();
        }

        // Kept where nobody can write who can write to the database.
        ChainHead head = vacancy.trail().seal();
        Verification found = vacancy.trail().verify(head);
        System.out.println(found.verified() + ", " + found.head().position() + " sealed");

        // Files, a search index, a cache: each event at least once, in order.
        int passed = vacancy.outbox()
                .passOn(100, event -> System.out.println(event.content().substring(0, 22)));
        System.out.println(passed + " passed on");
    }
}
