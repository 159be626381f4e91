// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Rows that refer to rows of their own table in several ways, and to one another, go and come back as they were. */
class CircleTest {

    private static final int CASES = Integer.getInteger("vacancy.cases", 80) / 8 + 2;
    private static final List<String> ACTIONS = List.of("", " ON DELETE CASCADE", " ON DELETE SET NULL");

    private final List<String> relations = new ArrayList<>();

    private Bench world(Engine engine, Random random) {
        relations.clear();
        int tables = 1 + random.nextInt(2);
        List<String> statements = new ArrayList<>();
        List<String> keys = new ArrayList<>();
        for (int t = 0; t < tables; t++) {
            StringBuilder columns =
                    new StringBuilder("CREATE TABLE t" + t + " (id INTEGER NOT NULL PRIMARY KEY, n VARCHAR(9)");
            for (int c = 0; c < 2 + random.nextInt(2); c++) {
                int parent = random.nextInt(3) == 0 ? tables - 1 - t : t;
                columns.append(", r" + c + " INTEGER");
                relations.add("t" + t + ".r" + c);
                String action = ACTIONS.get(random.nextInt(ACTIONS.size()));
                String key = "FOREIGN KEY (r" + c + ") REFERENCES t" + parent + " (id)" + action;
                if (engine == Engine.SQLITE) {
                    columns.append(" REFERENCES t" + parent + " (id)" + action);
                } else {
                    keys.add("ALTER TABLE t" + t + " ADD CONSTRAINT k" + t + c + " " + key);
                }
            }
            statements.add(columns + ")");
        }
        int rows = 3 + random.nextInt(10);
        for (int t = 0; t < tables; t++) {
            for (int id = 1; id <= rows; id++) {
                statements.add("INSERT INTO t" + t + " (id, n) VALUES (" + id + ", 'n" + id + "')");
            }
        }
        for (String relation : relations) {
            for (int id = 1; id <= rows; id++) {
                if (random.nextInt(3) > 0) {
                    statements.add("UPDATE " + relation.substring(0, 2) + " SET " + relation.substring(3) + " = "
                            + (1 + random.nextInt(rows)) + " WHERE id = " + id);
                }
            }
        }
        statements.addAll(keys);
        return Bench.of(engine, statements.toArray(String[]::new));
    }

    @OnEveryEngine
    void allOfThemComeBack(Engine engine) {
        int restored = 0;
        for (int i = 0; i < CASES; i++) {
            Random random = new Random(100L * i + engine.ordinal());
            Bench bench = world(engine, random);
            String what = "case " + i + " on " + engine;
            Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                    .rules(RuleBook.build(book -> relations.forEach(relation -> {
                        if (random.nextInt(4) > 0) {
                            book.relation(relation, Rule.cascade());
                        } else if (random.nextBoolean()) {
                            book.relation(relation, Rule.setNull());
                        }
                    })))
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            List<String> before = contents(vacancy);
            for (int again = 0; again < 3; again++) {
                Request request = Request.erase("t0").keys(List.of(1 + random.nextInt(3), 1 + random.nextInt(3)));
                Preview preview = vacancy.preview(request);
                if (preview.state() != Preview.State.READY) {
                    continue;
                }
                Receipt gone =
                        vacancy.execute(request.withoutConfirmation("a test")).receiptOrThrow();
                if (again == 1) {
                    // What is archived then has fewer columns than what is archived next.
                    bench.database().run("ALTER TABLE t0 ADD COLUMN later VARCHAR(9)");
                    vacancy.refresh();
                }
                Request back = Request.restore(gone.id());
                assertThat(vacancy.preview(back).blockers()).as(what).isEmpty();
                if (again == 1) {
                    assertThat(vacancy.preview(back).warnings())
                            .as(what)
                            .contains("Table t0 has got later since; it holds its default in what is restored.");
                }
                vacancy.execute(back.withoutConfirmation("a test")).receiptOrThrow();
                assertThat(contents(vacancy).stream()
                                .map(row -> row.replace(", later=null", ""))
                                .toList())
                        .as(what + " " + request)
                        .isEqualTo(before);
                restored++;
            }
            // In two receipts, one after the other, and back in one.
            Request one = Request.erase("t0").key(1).withoutConfirmation("a test");
            Request two = Request.erase("t0").key(2).withoutConfirmation("a test");
            boolean both = vacancy.execute(one).state().word().equals("done")
                    && vacancy.execute(two).state().word().equals("done");
            if (both) {
                Request back = Request.restore("t0").everyRow().withoutConfirmation("a test");
                Preview preview = vacancy.preview(back);
                if (preview.state() == Preview.State.READY) {
                    assertThat(vacancy.execute(back).state().word()).as(what).isEqualTo("done");
                }
            }
        }
        assertThat(restored).isGreaterThan(CASES / 2);
    }

    private static List<String> contents(Vacancy vacancy) {
        List<String> contents = new ArrayList<>();
        vacancy.schema().tables().forEach(table -> {
            try (var rows = vacancy.rows(Request.erase(table.toString()).everyRow())) {
                rows.map(row -> table + " " + row.values()).sorted().forEach(contents::add);
            }
        });
        return contents;
    }
}
