// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Limits;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Operation;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.time.Duration;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.UnaryOperator;

/**
 * Any sequence of calls on a request is refused when it is said, or when it is previewed, or does what the question says,
 * which is held against the database: how many rows of each table are there, are marked, have a link, are archived.
 */
class RequestPropertyTest {

    private static final int CASES = Math.max(60, Integer.getInteger("vacancy.cases", 200) / 3);

    private static final RuleBook RULES = RuleBook.build(
            book -> book.table("boat", t -> t.marker(Marker.date("left_on").receipt("receipt"))
                            .blank("name", "boat {id}")
                            .person()
                            .forget(Rule.blank()))
                    .table("note", t -> t.forget(Rule.erase()))
                    .table("letter", t -> t.marker(Marker.date("left_on")))
                    .table("contract", t -> t.marker(Marker.versions(List.of("no"), "valid_from", "valid_until")))
                    .whenSoftDeleted("note.boat_id", Rule.leave())
                    .relation("letter.boat_no -> boat.id", Rule.leave()));

    private static final String BLANK = "boat WHERE name LIKE 'boat %'";

    /** What there is, as plain counts. */
    private record Counts(Map<String, Long> counts) {

        static Counts of(Bench bench) {
            Map<String, Long> counts = new LinkedHashMap<>();
            for (String what : List.of(
                    "boat",
                    "boat WHERE left_on IS NOT NULL",
                    BLANK,
                    "note",
                    "letter",
                    "letter WHERE left_on IS NOT NULL",
                    "letter WHERE boat_no IS NULL",
                    "contract",
                    "contract WHERE valid_until IS NOT NULL",
                    "vacancy_image")) {
                counts.put(what, bench.count(what));
            }
            return new Counts(counts);
        }

        long since(Counts before, String what) {
            return counts.get(what) - before.counts.get(what);
        }
    }

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20), left_on DATE, receipt VARCHAR(64))",
                "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, FOREIGN KEY (boat_id)"
                        + " REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE letter (id INTEGER NOT NULL PRIMARY KEY, boat_no INTEGER, left_on DATE)",
                "CREATE TABLE contract (no INTEGER NOT NULL, valid_from DATE NOT NULL, valid_until DATE, rent INTEGER,"
                        + " PRIMARY KEY (no, valid_from))");
        bench.vacancy().archive().setUp();
        return bench;
    }

    private static void fill(Bench bench) {
        bench.database()
                .run(
                        "DELETE FROM note",
                        "DELETE FROM boat",
                        "DELETE FROM letter",
                        "DELETE FROM contract",
                        "INSERT INTO boat (id, name, left_on) VALUES (1, 'Osprey', NULL), (2, 'Merlin', NULL),"
                                + " (3, 'Kestrel', '2026-01-01'), (4, 'Tern', NULL)",
                        "INSERT INTO note VALUES (1, 1), (2, 1), (3, 2), (4, 3)",
                        "INSERT INTO letter VALUES (1, 1, NULL), (2, 99, NULL), (3, 98, '2026-01-01'), (4, 97, NULL)",
                        "INSERT INTO contract VALUES (1, '2025-01-01', NULL, 100), (2, '2025-01-01', NULL, 200)");
    }

    @OnEveryEngine
    void whateverIsSaidIsRefusedOrDone(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RULES)
                .actor(() -> "Mira Holm")
                .open();
        Map<OperationKind, Integer> done = new EnumMap<>(OperationKind.class);
        int refused = 0;
        for (int seed = 0; seed < CASES; seed++) {
            Random random = new Random(seed * 0x9E3779B97F4A7C15L);
            fill(bench);
            ReceiptId receipt = vacancy.execute(Request.erase("boat").key(4).withoutConfirmation("a test"))
                    .receiptOrThrow()
                    .id();
            Counts before = Counts.of(bench);
            Request request = null;
            Preview preview;
            try {
                request = random(seed, random, receipt);
                preview = vacancy.preview(request);
            } catch (MisuseException contradiction) {
                assertThat(Counts.of(bench)).as(told(engine, seed, request)).isEqualTo(before);
                refused++;
                continue;
            }
            String told =
                    told(engine, seed, request) + ": " + preview.question().title();
            String typed = preview.question().awaited();
            Outcome outcome = seed % 24 >= 12 && random.nextInt(3) == 0
                    ? vacancy.execute(request, preview.question().answer("certainly not"))
                    : vacancy.execute(preview, preview.question().answer(typed));
            Counts after = Counts.of(bench);
            if (outcome instanceof Outcome.Done) {
                assertThat(preview.state()).as(told).isEqualTo(State.READY);
                assertThat(preview.question().strength()).as(told).isNotEqualTo(Strength.NONE);
                check(preview, before, after, told);
                done.merge(preview.operation(), 1, Integer::sum);
            } else {
                assertThat(after).as(told).isEqualTo(before);
            }
        }
        // What is dropped is there for no request after it; DropTest does that.
        assertThat(done.keySet())
                .containsExactlyInAnyOrderElementsOf(EnumSet.complementOf(EnumSet.of(OperationKind.DROP)));
        assertThat(refused).isPositive();
    }

    private static String told(Engine engine, int seed, Request request) {
        return engine + " seed " + seed + ": " + request;
    }

    /** Each kind comes up in turn; what else is said is left to chance. */
    private static Request random(int seed, Random random, ReceiptId receipt) {
        String table = List.of("boat", "letter", "contract", "note").get(random.nextInt(4));
        Request request =
                switch (seed % 12) {
                    case 0 -> selected(Request.delete(table), random);
                    case 1 -> selected(Request.erase(table), random);
                    case 2 ->
                        random.nextBoolean()
                                ? Request.forget("boat").key(1 + random.nextInt(3))
                                : selected(Request.blank(random.nextInt(4) == 0 ? table : "boat"), random);
                    case 3, 4 -> selected(Request.softDelete(table), random);
                    case 5 ->
                        Request.replace("contract")
                                .where(column("no").equalTo(1 + random.nextInt(2)))
                                .with(Map.of("rent", random.nextInt(1_000)))
                                .from("2026-0" + (1 + random.nextInt(9)) + "-01");
                    case 6 -> Request.restore(receipt);
                    case 7 ->
                        random.nextBoolean()
                                ? selected(Request.restore(table), random)
                                : selected(Request.restore(receipt, "boat"), random);
                    case 8 -> random.nextInt(3) > 0 ? Request.purge(receipt) : selected(Request.purge(table), random);
                    case 9 -> seed % 24 < 12 ? Request.truncate("note") : Request.truncate(table);
                    case 10 ->
                        random.nextInt(3) == 0
                                ? selected(Request.purge("boat"), random)
                                : Request.merge("boat")
                                        .key(1 + random.nextInt(4))
                                        .into(1 + random.nextInt(4));
                    default -> Request.unlinkOrphans("letter.boat_no");
                };
        List<UnaryOperator<Request>> said = List.of(
                r -> r.and(column("id").lessThan(3)),
                r -> r.filter(row -> row.getLong("id") % 2 == 0),
                r -> r.limit(1),
                r -> r.orderBy("id").limit(2),
                r -> r.because("sold"),
                Request::includingMarked,
                Request::includingMarked,
                Request::withoutArchive,
                r -> r.expect(1),
                r -> r.atMost(3),
                r -> r.atMostInAll(4),
                r -> r.atMostPercent(50),
                r -> r.limits(Limits.NONE),
                r -> r.lockTimeout(Duration.ofSeconds(5)),
                r -> r.onBlocked(OnBlocked.SKIP),
                r -> r.rule("note.boat_id", "block:it is needed"),
                r -> r.reassign("note.boat_id", 2),
                r -> r.plus(other(r, random)),
                Request::acceptUnasked);
        int further = seed % 24 < 12 ? 0 : 1 + random.nextInt(2);
        for (int i = 0; i < further; i++) {
            request = said.get(random.nextInt(said.size())).apply(request);
        }
        return request;
    }

    /** Rows of another table, in the same way. */
    private static Request other(Request request, Random random) {
        SelectionStep step = request.operation() instanceof Operation.SoftDelete
                ? Request.softDelete("letter")
                : request.operation() instanceof Operation.Erase ? Request.erase("note") : Request.delete("contract");
        return selected(step, random);
    }

    private static Request selected(SelectionStep step, Random random) {
        return switch (random.nextInt(5)) {
            case 0 -> step.key(1 + random.nextInt(4));
            case 1 -> step.keys(1 + random.nextInt(4), 1 + random.nextInt(4), 77);
            case 2 -> step.where(column("id").atMost(1 + random.nextInt(4)));
            case 3 -> step.everyRow();
            default -> step.orphansOf("letter.boat_no");
        };
    }

    /** The question's own numbers, found in the database. */
    private static void check(Preview preview, Counts before, Counts after, String told) {
        long images = after.since(before, "vacancy_image");
        long boats = after.since(before, "boat");
        long letters = after.since(before, "letter");
        long notes = after.since(before, "note");
        long contracts = after.since(before, "contract");
        long marked = after.since(before, "boat WHERE left_on IS NOT NULL")
                + after.since(before, "letter WHERE left_on IS NOT NULL");
        long ended = after.since(before, "contract WHERE valid_until IS NOT NULL");
        long rows = boats + letters + notes + contracts;
        long all = preview.impact().going();
        String title = preview.question().title();
        switch (preview.operation()) {
            case ERASE -> {
                assertThat(title).as(told).startsWith("Erase ");
                assertThat(rows).as(told).isEqualTo(-all);
            }
            case TRUNCATE -> {
                assertThat(title).as(told).startsWith("Empty table ");
                assertThat(rows).as(told).isEqualTo(-all).isNotZero();
            }
            case DROP -> throw new AssertionError("nothing is dropped here: " + told);
            case SOFT_DELETE -> {
                assertThat(title).as(told).startsWith("Mark as deleted ");
                assertThat(rows).as(told).isZero();
                assertThat(marked + ended).as(told).isEqualTo(all);
            }
            case REPLACE -> {
                assertThat(title).as(told).startsWith("Replace ");
                assertThat(contracts).as(told).isEqualTo(1);
                assertThat(ended).as(told).isEqualTo(1);
            }
            case MERGE -> {
                assertThat(title).as(told).startsWith("Merge boat ").contains(" into ");
                assertThat(boats).as(told).isEqualTo(-1);
                assertThat(notes).as(told).isZero();
                assertThat(all).as(told).isEqualTo(1);
            }
            case BLANK -> {
                long blank = after.since(before, BLANK);
                assertThat(title).as(told).startsWith("Blank ");
                assertThat(rows + marked).as(told).isZero();
                assertThat(blank).as(told).isEqualTo(preview.impact().selected());
                assertThat(images).as(told).isEqualTo(preview.impact().archived() ? blank : 0);
            }
            case FORGET -> {
                assertThat(title).as(told).startsWith("Forget boat ");
                assertThat(after.since(before, BLANK)).as(told).isEqualTo(1);
                assertThat(rows).as(told).isEqualTo(notes).isEqualTo(-all);
                assertThat(images).as(told).isEqualTo(preview.impact().archived() ? 1 + all : 0);
            }
            case RESTORE -> {
                assertThat(title).as(told).startsWith("Restore ");
                assertThat(rows - marked).as(told).isEqualTo(all);
                assertThat(images).as(told).isZero();
            }
            case PURGE -> {
                assertThat(title).as(told).startsWith("Purge ");
                assertThat(rows).as(told).isZero();
                assertThat(images).as(told).isEqualTo(-all);
            }
            case UNLINK_ORPHANS -> {
                assertThat(title).as(told).startsWith("Set letter.boat_no to NULL ");
                assertThat(rows).as(told).isZero();
                assertThat(after.since(before, "letter WHERE boat_no IS NULL"))
                        .as(told)
                        .isEqualTo(preview.impact().selected());
            }
        }
    }
}
