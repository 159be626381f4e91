// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.OpenQuestions;
import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.engines.Engine;
import io.vacancy.failure.RuleBookException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.QuestionId;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.ApprovalEntry;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.TrailEntry;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;

/** What somebody else has to approve. */
class ApprovalTest {

    private static final String[] TABLES = {
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, name VARCHAR(40))",
        "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, boat_id INTEGER NOT NULL,"
                + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
        "INSERT INTO boat VALUES (1, 7, 'Osprey'), (2, 7, 'Merlin'), (3, 8, 'Tern')",
        "INSERT INTO note VALUES (10, 7, 1), (11, 7, 1), (12, 8, 3)"
    };

    private static final RuleBook RULES = RuleBookFile.read("""
            version: 1
            relations: {note.boat_id: cascade}
            approvals:
              - {table: boat, above: 2}
              - {operation: purge}
            """, "rules");

    private static Vacancy as(String actor, Bench bench) {
        return as(actor, bench, Scope.everything(), Clock.systemUTC());
    }

    private static Vacancy as(String actor, Bench bench, Scope scope, Clock clock) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RULES)
                .actor(() -> actor)
                .scope(() -> scope)
                .clock(clock)
                .permission((who, table, act) -> {
                    boolean approver = who.startsWith("Harbour master");
                    if (act == Act.APPROVE) {
                        return approver ? null : "Only the harbour master approves.";
                    }
                    // Whoever approves need not be allowed to do it.
                    return approver && act == Act.ERASE ? "The harbour master deletes nothing." : null;
                })
                .open();
    }

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.vacancy().archive().setUp();
        return bench;
    }

    private static final Request OSPREY = Request.erase("boat").key(1).because("sold");

    /** Asked, answered, and waiting. */
    private static QuestionId waiting(Vacancy asker) {
        OpenQuestion question = asker.questions().open(asker.preview(OSPREY));
        Outcome outcome = asker.questions().answer(question.id(), "yes").orElseThrow();
        assertThat(outcome).isInstanceOf(Outcome.Waiting.class);
        assertThat(((Outcome.Waiting) outcome).question()).isEqualTo(question.id());
        return question.id();
    }

    @OnEveryEngine
    void nothingIsDoneUntilSomebodyElseApproves(Engine engine) {
        Bench bench = bench(engine);
        Vacancy asker = as("Mira Holm", bench);
        Vacancy master = as("Harbour master Orn", bench);

        Preview preview = asker.preview(OSPREY);
        assertThat(preview.state()).isEqualTo(State.READY);
        assertThat(preview.approval()).isEqualTo("boat, more than 2 rows");
        Outcome direct = asker.execute(preview, preview.question().answer("yes"));
        assertThat(direct.message())
                .isEqualTo("Somebody else has to approve it first (boat, more than 2 rows). Nothing was changed.");
        // Neither a number nor a reason stands for somebody else.
        assertThat(asker.execute(OSPREY.expect(1)).state()).isEqualTo(Outcome.State.WAITING);
        assertThat(asker.execute(OSPREY.withoutConfirmation("nightly")).state()).isEqualTo(Outcome.State.WAITING);
        assertThat(asker.preview(Request.erase("boat").key(2)).approval()).isNull();

        QuestionId id = waiting(asker);
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(asker.questions().find(id).orElseThrow().state()).isEqualTo(OpenQuestion.State.WAITING);
        assertThat(asker.questions().answer(id, "yes")).isEmpty();
        List<OpenQuestion> waiting = master.questions().waiting();
        assertThat(waiting).extracting(OpenQuestion::id).containsExactly(id);
        assertThat(waiting.get(0).by()).isEqualTo("Mira Holm");
        assertThat(master.preview(waiting.get(0).request().withoutId()).fingerprint())
                .isEqualTo(preview.fingerprint());

        assertThat(master.questions().approve(id, "no")).get().isInstanceOf(Outcome.Declined.class);
        Outcome done = master.questions().approve(id, "yes").orElseThrow();

        assertThat(done.receiptOrThrow().by()).isEqualTo("Mira Holm");
        assertThat(bench.count("boat")).isEqualTo(2);
        OpenQuestion after = asker.questions().find(id).orElseThrow();
        assertThat(after.state()).isEqualTo(OpenQuestion.State.DONE);
        assertThat(after.decidedBy()).isEqualTo("Harbour master Orn");
        assertThat(after.receipt()).isEqualTo(done.receiptOrThrow().id());
        assertThat(master.questions().approve(id, "yes")).isEmpty();
        try (Stream<TrailEntry> entries = bench.vacancy().history().open()) {
            TrailEntry entry = entries.filter(each -> each.ending() == TrailEntry.Ending.DONE)
                    .findFirst()
                    .orElseThrow();
            assertThat(entry.by()).isEqualTo("Mira Holm");
            assertThat(entry.confirmation().approvedBy()).isEqualTo("Harbour master Orn");
            assertThat(JsonReader.entry(JsonWriter.entry(entry))).isEqualTo(entry);
        }
    }

    @OnEveryEngine
    void whoAskedWhoMayNotAndWhoSeesLessCannotApprove(Engine engine) {
        Bench bench = bench(engine);
        Vacancy asker = as("Mira Holm", bench);
        QuestionId id = waiting(asker);
        Scope eight = Scope.where("harbour_id", 8);
        QuestionId masters = waiting(asker);

        for (Vacancy nobody :
                List.of(asker, as("Tavi Orn", bench), as("Harbour master Orn", bench, eight, Clock.systemUTC()))) {
            assertThat(nobody.questions().waiting()).isEmpty();
            assertThat(nobody.questions().findWaiting(id)).isEmpty();
            assertThat(nobody.questions().approve(id, "yes")).isEmpty();
            assertThat(nobody.questions().decline(id)).isEmpty();
        }
        assertThat(bench.count("boat")).isEqualTo(3);
        // One who sees all of it may.
        assertThat(as("Harbour master Orn", bench).questions().approve(masters, "yes"))
                .get()
                .isInstanceOf(Outcome.Done.class);
    }

    @OnEveryEngine
    void itIsJudgedAnewWhenItIsCarriedOut(Engine engine) {
        Bench bench = bench(engine);
        Vacancy asker = as("Mira Holm", bench);
        Vacancy master = as("Harbour master Orn", bench);
        QuestionId id = waiting(asker);
        bench.database().run("INSERT INTO note VALUES (13, 7, 1)");

        assertThat(master.questions().approve(id, "yes")).get().isInstanceOf(Outcome.Changed.class);
        assertThat(asker.questions().find(id).orElseThrow().state()).isEqualTo(OpenQuestion.State.CHANGED);
        assertThat(bench.count("boat")).isEqualTo(3);

        QuestionId declined = waiting(asker);
        assertThat(master.questions().decline(declined)).get().isInstanceOf(Outcome.Declined.class);
        OpenQuestion after = asker.questions().find(declined).orElseThrow();
        assertThat(after.state()).isEqualTo(OpenQuestion.State.DECLINED);
        assertThat(after.decidedBy()).isEqualTo("Harbour master Orn");
        QuestionId withdrawn = waiting(asker);
        assertThat(asker.questions().withdraw(withdrawn)).get().isInstanceOf(Outcome.Declined.class);
        assertThat(master.questions().approve(withdrawn, "yes")).isEmpty();

        QuestionId guessed = waiting(asker);
        for (int i = 0; i < OpenQuestions.WRONG_ANSWERS; i++) {
            assertThat(master.questions().approve(guessed, "maybe")).isPresent();
        }
        assertThat(master.questions().approve(guessed, "yes")).isEmpty();
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    @OnEveryEngine
    void itWaitsForSomeTimeAndTheAskerMustStillBeAllowed(Engine engine) {
        Bench bench = bench(engine);
        Instant now = Instant.parse("2026-05-01T12:00:00Z");
        Vacancy asker = as("Mira Holm", bench, Scope.everything(), Clock.fixed(now, ZoneOffset.UTC));
        QuestionId id = waiting(asker);
        Clock threeDays = Clock.fixed(now.plus(Duration.ofDays(3)), ZoneOffset.UTC);
        Clock nearly = Clock.fixed(now.plus(Duration.ofDays(3)).minusSeconds(1), ZoneOffset.UTC);
        Vacancy late = as("Harbour master Orn", bench, Scope.everything(), threeDays);

        assertThat(as("Harbour master Orn", bench, Scope.everything(), nearly)
                        .questions()
                        .waiting())
                .hasSize(1);
        assertThat(late.questions().waiting()).isEmpty();
        assertThat(late.questions().approve(id, "yes")).isEmpty();

        Vacancy strict = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RULES)
                .actor(() -> "Harbour master Orn")
                .clock(Clock.fixed(now, ZoneOffset.UTC))
                .permission((who, table, act) ->
                        who.equals("Mira Holm") && act == Act.ERASE ? "Mira Holm has left the office." : null)
                .open();
        assertThat(strict.questions().approve(id, "yes")).get().satisfies(outcome -> assertThat(outcome.message())
                .contains("Mira Holm has left the office."));
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    @OnEveryEngine
    void severalWhoApproveAtOnceGetOneReceipt(Engine engine) throws Exception {
        Bench bench = bench(engine);
        QuestionId id = waiting(as("Mira Holm", bench));
        CyclicBarrier together = new CyclicBarrier(4);
        ExecutorService people = Executors.newFixedThreadPool(4);
        try {
            List<Callable<Optional<Outcome>>> all = Stream.of("Orn", "Vik", "Pell", "Quill")
                    .<Callable<Optional<Outcome>>>map(name -> () -> {
                        Vacancy master = as("Harbour master " + name, bench);
                        together.await();
                        return master.questions().approve(id, "yes");
                    })
                    .toList();
            List<Outcome> outcomes = people.invokeAll(all).stream()
                    .map(ApprovalTest::result)
                    .flatMap(Optional::stream)
                    .toList();
            assertThat(outcomes.stream()
                            .filter(outcome -> outcome instanceof Outcome.Done)
                            .map(outcome -> outcome.receiptOrThrow().id())
                            .distinct())
                    .hasSize(1);
            assertThat(bench.count("boat")).isEqualTo(2);
            assertThat(bench.count("vacancy_receipt")).isEqualTo(1);
        } finally {
            people.shutdownNow();
        }
    }

    private static Optional<Outcome> result(Future<Optional<Outcome>> running) {
        try {
            return running.get();
        } catch (Exception failed) {
            throw new AssertionError(failed);
        }
    }

    @OnEveryEngine
    void theRuleBookSaysOfWhat(Engine engine) {
        Bench bench = bench(engine);
        RuleBook soft = RuleBook.build(book -> book.approval(
                        ApprovalEntry.ANY.operation(OperationKind.TRUNCATE).table("note"))
                .approval(ApprovalEntry.ANY.operation(OperationKind.RESTORE)));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(soft)
                .actor(() -> "Mira Holm")
                .open();

        assertThat(vacancy.preview(Request.truncate("note")).approval()).isEqualTo("truncate, note");
        assertThat(vacancy.preview(Request.erase("note").where(column("id").greaterThan(0)))
                        .approval())
                .isNull();
        assertThatThrownBy(() -> Vacancy.on(JdbcStore.of(bench.database().source()))
                        .rules(RuleBook.build(book -> book.approval(ApprovalEntry.ANY.table("baot"))))
                        .actor(() -> "Mira Holm")
                        .open()
                        .preview(OSPREY))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("did you mean boat?");
    }
}
