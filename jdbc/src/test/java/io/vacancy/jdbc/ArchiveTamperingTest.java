// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.TrailIntegrityException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.trail.ChainAnchor;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.FileAnchor;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.LogAnchor;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whoever changes what is archived, or has the application sign what is left of the trail, is found out in time. */
class ArchiveTamperingTest {

    private static final List<String> TABLES = List.of("image", "line");

    @TempDir
    private Path folder;

    /** Each of them by somebody who may write to every table and knows its form. */
    private static List<List<String>> ways(Engine engine) {
        boolean arrays = engine == Engine.H2 || engine == Engine.POSTGRESQL;
        String line = " WHERE line = 0";
        String one = " WHERE row_no = (SELECT MIN(row_no) FROM copy_image WHERE line = 0)";
        String last = " WHERE row_no = (SELECT MAX(row_no) FROM copy_image WHERE line = 0)";
        String cell = arrays ? "cells = ARRAY['1', '0000-A', '7']" : "c1 = '0000-A'";
        String shifted = arrays ? "cells = ARRAY['1', '1, 7', '7']" : "c1 = '1, 7'";
        String none = arrays ? "cells = ARRAY['1', NULL, '7']" : "c1 = NULL";
        String otherRow = arrays
                ? "cells = (SELECT cells FROM copy_image" + last + ")"
                : "c0 = (SELECT c0 FROM copy_image" + last + "), c1 = (SELECT c1 FROM copy_image" + last + ")";
        return List.of(
                List.of("UPDATE vacancy_image SET " + cell + one),
                List.of("UPDATE vacancy_image SET " + shifted + one),
                List.of("UPDATE vacancy_image SET " + none + one),
                List.of("UPDATE vacancy_image SET " + cell + last),
                List.of("UPDATE vacancy_image SET " + otherRow + one),
                List.of("DELETE FROM vacancy_image" + last),
                List.of(
                        "DELETE FROM vacancy_image" + last,
                        "UPDATE vacancy_line SET rows_archived = rows_archived - 1, rows_there = rows_there - 1,"
                                + " rows_left = rows_left - 1" + line),
                List.of("INSERT INTO vacancy_image SELECT "
                        + (engine == Engine.POSTGRESQL || engine == Engine.H2
                                ? "row_no + 1000, receipt_no, line, back_no, cells"
                                        + (engine == Engine.H2 ? ", texts, bytes, lists" : "") + " FROM copy_image"
                                        + last
                                : "row_no + 1000, receipt_no, line, back_no, " + cells() + ", rest FROM copy_image"
                                        + last)),
                List.of("UPDATE vacancy_line SET archived_columns = REPLACE(REPLACE(REPLACE(archived_columns,"
                        + " '\"name\"', '\"aside\"'), '\"harbour\"', '\"name\"'), '\"aside\"', '\"harbour\"')" + line),
                List.of("UPDATE vacancy_image SET row_no = -row_no" + last),
                List.of("UPDATE vacancy_image SET line = 1" + one, "UPDATE vacancy_line SET rows_there = 1" + line));
    }

    private static String cells() {
        return String.join(", ", LongStream.range(0, 128).mapToObj(i -> "c" + i).toList());
    }

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), harbour VARCHAR(40))",
                "CREATE TABLE chain (id INTEGER NOT NULL PRIMARY KEY, buoy_id INTEGER,"
                        + " FOREIGN KEY (buoy_id) REFERENCES buoy (id) ON DELETE CASCADE)",
                "INSERT INTO buoy VALUES (1, 'north', '7'), (2, 'south', '7'), (3, 'east', '8')",
                "INSERT INTO chain VALUES (10, 1), (20, 2), (30, 2)");
        bench.vacancy().archive().setUp();
        return bench;
    }

    @OnEveryEngine
    void whatWasChangedInTheArchiveDoesNotComeBack(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = sealing(bench, null);
        ReceiptId receipt = vacancy.execute(Request.delete("buoy").everyRow().withoutConfirmation("a test"))
                .receiptOrThrow()
                .id();
        TABLES.forEach(
                table -> bench.database().run("CREATE TABLE copy_" + table + " AS SELECT * FROM vacancy_" + table));
        int way = 0;
        for (List<String> statements : ways(engine)) {
            bench.database().run(statements.toArray(String[]::new));
            way++;
            for (Request back :
                    List.of(Request.restore(receipt), Request.restore(receipt).onBlocked(OnBlocked.SKIP))) {
                Outcome outcome = vacancy.execute(back.withoutConfirmation("a test"));
                assertThat(outcome.state()).as(way + " " + back).isEqualTo(Outcome.State.BLOCKED);
                assertThat(((Outcome.Blocked) outcome).preview().blockers())
                        .as(way + " " + back)
                        .anySatisfy(blocker -> assertThat(blocker.reason()).contains("somebody changed the archive"));
            }
            // Where it has another key by now there is nothing to find.
            assertThat(vacancy.execute(Request.restore("buoy").keys(List.of(1)).withoutConfirmation("a test"))
                            .state())
                    .as("way " + way)
                    .isIn(Outcome.State.BLOCKED, Outcome.State.NOTHING);
            assertThat(bench.count("buoy")).as("way " + way).isZero();
            TABLES.forEach(table -> bench.database()
                    .run(
                            "DELETE FROM vacancy_" + table,
                            "INSERT INTO vacancy_" + table + " SELECT * FROM copy_" + table));
        }
        vacancy.execute(Request.restore(receipt).withoutConfirmation("a test")).receiptOrThrow();
        assertThat(bench.count("buoy")).isEqualTo(3);
        assertThat(bench.count("chain WHERE buoy_id IN (1, 2)")).isEqualTo(3);
    }

    @OnEveryEngine
    void whatIsLeftAfterAPurgeComesBackWithAWarning(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = sealing(bench, null);
        ReceiptId receipt = vacancy.execute(Request.delete("buoy").everyRow().withoutConfirmation("a test"))
                .receiptOrThrow()
                .id();
        vacancy.execute(Request.purge("buoy")
                        .where(column("name").equalTo("east"))
                        .withoutConfirmation("a test"))
                .receiptOrThrow();
        Preview preview = vacancy.preview(Request.restore(receipt));
        assertThat(preview.state()).as(preview.blockers().toString()).isEqualTo(Preview.State.READY);
        assertThat(preview.warnings()).anyMatch(warning -> warning.contains("were purged from receipt " + receipt));
        vacancy.execute(Request.restore(receipt).withoutConfirmation("a test")).receiptOrThrow();
        assertThat(bench.count("buoy")).isEqualTo(2);
    }

    private static final class InMemory implements ChainAnchor {

        private @Nullable ChainHead head;

        @Override
        public @Nullable ChainHead remembered() {
            return head;
        }

        @Override
        public void remember(ChainHead now) {
            head = now;
        }
    }

    private static Vacancy sealing(Bench bench, @Nullable ChainAnchor anchor) {
        Vacancy.Builder opening = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .sealKey("known to the auditors".getBytes(StandardCharsets.UTF_8))
                .sealEvery(Duration.ZERO);
        return (anchor == null ? opening : opening.anchor(anchor)).open();
    }

    /** Later seals are taken away, what they sealed is rewritten and put back as if it had never been sealed. */
    private static void rewrite(Bench bench, String kept) {
        bench.database()
                .run(
                        "INSERT INTO vacancy_unsealed SELECT entry_id FROM vacancy_seal WHERE place_no > 1",
                        "UPDATE vacancy_trail SET actor = 'Jonas Reik', content = REPLACE(content, 'Mira Holm', 'Jonas Reik')"
                                + " WHERE id IN (SELECT entry_id FROM vacancy_unsealed)",
                        "DELETE FROM vacancy_seal WHERE place_no > 1",
                        "UPDATE vacancy_head SET place_no = 1, digest = '" + kept + "'");
    }

    @OnEveryEngine
    void whatWasSealedIsNotSignedAgainBelowTheHeadThatIsRemembered(Engine engine) throws IOException {
        for (ChainAnchor anchor :
                List.of(new InMemory(), new LogAnchor(), new FileAnchor(folder.resolve("head-" + engine)))) {
            Bench bench = bench(engine);
            Vacancy vacancy = sealing(bench, anchor);
            String first = "";
            for (int id = 1; id <= 3; id++) {
                vacancy.execute(Request.delete("chain").key(id * 10).expect(1)).receiptOrThrow();
                first = id == 1 ? vacancy.trail().seal().digest() : first;
            }
            ChainHead head = vacancy.trail().seal();
            assertThat(anchor.remembered()).isEqualTo(head).returns(3L, ChainHead::position);

            rewrite(bench, first);
            assertThatThrownBy(() -> vacancy.trail().seal())
                    .isInstanceOf(TrailIntegrityException.class)
                    .hasMessageContaining("was sealed up to 3, and in the database it ends at 1");
            Outcome.Done done =
                    (Outcome.Done) vacancy.execute(Request.delete("buoy").key(1).expect(1));
            assertThat(done.warnings()).singleElement().asString().contains("Committed, but", "nothing is sealed");
            assertThat(vacancy.trail().verify().flaw())
                    .isNotNull()
                    .returns(IntegrityViolation.Kind.CUT, IntegrityViolation::kind);

            // Without a memory the application signs what it finds, and only a head that was kept tells.
            Vacancy forgetful = sealing(bench, null);
            forgetful.trail().seal();
            assertThat(forgetful.trail().verify().verified()).isTrue();
            assertThat(vacancy.trail().verify().verified()).isFalse();
            assertThatThrownBy(() -> vacancy.trail().seal())
                    .isInstanceOf(TrailIntegrityException.class)
                    .hasMessageContaining("the seal at that place is another one");
        }
    }

    @Test
    void theFileRemembersTheLatestHeadOfManyAndNothingElse() throws Exception {
        Path file = folder.resolve("head");
        FileAnchor anchor = new FileAnchor(file);
        assertThat(anchor.remembered()).isNull();
        List<ChainHead> heads = new ArrayList<>();
        for (int i = 1; i <= 60; i++) {
            heads.add(new ChainHead(i, String.format("%064x", i)));
        }
        ExecutorService several = Executors.newFixedThreadPool(4);
        heads.forEach(head -> several.submit(() -> new FileAnchor(file).remember(head)));
        several.shutdown();
        assertThat(several.awaitTermination(30, TimeUnit.SECONDS)).isTrue();
        assertThat(anchor.remembered()).isEqualTo(heads.get(59));
        anchor.remember(heads.get(3));
        assertThat(anchor.remembered()).isEqualTo(heads.get(59));
        for (String wrong : List.of("", "12", "12:zz", "-1:" + "0".repeat(64), "x".repeat(500))) {
            Files.writeString(file, wrong);
            assertThatThrownBy(anchor::remembered).as(wrong).isInstanceOf(MisuseException.class);
        }
    }
}
