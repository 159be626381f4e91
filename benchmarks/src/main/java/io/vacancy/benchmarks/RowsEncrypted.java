// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.archive.PersonKey;
import io.vacancy.archive.PersonKeys;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.security.SecureRandom;
import java.sql.Connection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Erasing 20,000 persons: archived with two columns encrypted by a key of each, against archived as they were. */
final class RowsEncrypted {

    private static final int PERSONS = 20_000;
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private RowsEncrypted() {}

    /** In memory, so that the encryption is measured and no folder. */
    private static final class Remembered implements PersonKeys {

        private final SecureRandom random = new SecureRandom();
        private final Map<String, PersonKey> keys = new HashMap<>();

        @Override
        public PersonKey of(String table, List<String> key) {
            return keys.computeIfAbsent(key.get(0), id -> {
                byte[] secret = new byte[PersonKey.LENGTH];
                random.nextBytes(secret);
                return PersonKey.of(id, secret);
            });
        }

        @Override
        public @Nullable PersonKey find(String id) {
            return keys.get(id);
        }

        @Override
        public boolean destroy(String table, List<String> key) {
            return keys.remove(key.get(0)) != null;
        }
    }

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        RoundTrips trips = new RoundTrips();
        RuleBook rules = RuleBook.build(book ->
                book.table("guest", t -> t.person().personal("name", "email").forget(Rule.erase())));
        Request erase = Request.erase("guest").everyRow().withoutConfirmation("measured");
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            BigHarbours.execute(
                    connection,
                    "CREATE TABLE guest (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), email VARCHAR(60), visits INTEGER)");
            for (int from = 0; from < PERSONS; from += 1_000) {
                StringBuilder rows = new StringBuilder("INSERT INTO guest VALUES ");
                for (int i = from; i < from + 1_000; i++) {
                    rows.append(i == from ? "" : ", ")
                            .append("(" + i + ", 'Guest " + i + "', 'guest-" + i + "@harbour.example', 3)");
                }
                BigHarbours.execute(connection, rows.toString());
            }
            connection.commit();
            Vacancy.Builder opening =
                    Vacancy.on(JdbcStore.of(database.source())).rules(rules).actor(() -> "Mira Holm");
            Vacancy plain = opening.open();
            plain.archive().setUp();
            Vacancy encrypting = opening.personKeys(new Remembered()).open();
            Connection counted = trips.counted(connection);
            new Rounds("20000 persons erased, " + engine, trips)
                    .afterEach(connection::rollback)
                    .way("archived", () -> plain.within(counted).execute(erase).receiptOrThrow())
                    .way(
                            "archived, encrypted",
                            "archived",
                            () -> encrypting.within(counted).execute(erase).receiptOrThrow())
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }
}
