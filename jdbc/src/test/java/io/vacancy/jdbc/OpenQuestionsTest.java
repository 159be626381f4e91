// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.Parameter.parameter;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.Question.Strength;
import io.vacancy.question.QuestionId;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.ValueKind;
import io.vacancy.trail.TrailEntry;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Questions that are asked here and answered elsewhere, later, twice, by somebody else, or never. */
class OpenQuestionsTest {

    private static final RuleBook RULES =
            RuleBook.build(book -> book.question(2, Strength.COUNT).deletion("left-before", d -> d.from("boat")
                    .where(column("left_on").before(parameter("day")))
                    .parameter("day", ValueKind.DATE)
                    .atMost(10)));

    /** A clock that is set by hand. */
    private static final class SetClock extends Clock {
        private Instant now = Instant.parse("2026-11-02T09:00:00Z");

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    }

    private static final class Office {
        private final Bench bench;
        private final SetClock clock = new SetClock();
        private final Vacancy node;
        private String actor = "Mira Holm";
        private Scope scope = Scope.everything();

        Office(Engine engine) {
            bench = Bench.of(
                    engine,
                    "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), harbour_id INTEGER, left_on DATE)",
                    "INSERT INTO boat VALUES (1, 'Osprey', 1, '2020-01-01'), (2, 'Tern', 1, '2021-01-01'),"
                            + " (3, 'Skua', 2, NULL), (4, 'Heron', 1, '2019-05-05')");
            node = another();
            node.archive().setUp();
        }

        Vacancy node() {
            return node;
        }

        /** Another instance of the application, on the same database. */
        Vacancy another() {
            return Vacancy.on(JdbcStore.of(bench.database().source()))
                    .rules(RULES)
                    .actor(() -> actor)
                    .scope(() -> scope)
                    .permission((who, table, act) ->
                            who.equals("Tilda Voss") && act != Act.LOOK ? "Tilda Voss may only look." : null)
                    .clock(clock)
                    .questionLifetime(Duration.ofMinutes(20))
                    .open();
        }

        OpenQuestion asked(Request request) {
            Vacancy node = node();
            return node.questions().open(node.preview(request));
        }

        Optional<State> state(OpenQuestion question) {
            return node().questions().find(question.id()).map(OpenQuestion::state);
        }
    }

    private static final Request OSPREY = Request.delete("boat").key(1).because("sold");

    @OnEveryEngine
    void isAnsweredOnAnotherNodeAndGivesOneReceipt(Engine engine) {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(OSPREY);

        Outcome first =
                office.another().questions().answer(question.id(), "yes").orElseThrow();
        Outcome again = office.node().questions().answer(question.id(), "yes").orElseThrow();
        Outcome anyText =
                office.node().questions().answer(question.id(), "whatever").orElseThrow();

        assertThat(first.receiptOrThrow().because()).isEqualTo("sold");
        assertThat(again.receiptOrThrow().id()).isEqualTo(first.receiptOrThrow().id());
        assertThat(anyText.receiptOrThrow().id())
                .isEqualTo(first.receiptOrThrow().id());
        assertThat(office.bench.count("boat")).isEqualTo(3);
        OpenQuestion then = office.node().questions().find(question.id()).orElseThrow();
        assertThat(then.state()).isEqualTo(State.DONE);
        assertThat(then.receipt()).isEqualTo(first.receiptOrThrow().id());
    }

    @OnEveryEngine
    void manyAnswersAtOnceDeleteOnce(Engine engine) throws Exception {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(OSPREY);
        List<Vacancy> nodes = List.of(office.node(), office.another());
        ExecutorService threads = Executors.newFixedThreadPool(8);
        List<Future<Outcome>> answers = new ArrayList<>();
        for (int i = 0; i < 24; i++) {
            Vacancy node = nodes.get(i % 2);
            answers.add(threads.submit(
                    () -> node.questions().answer(question.id(), "yes").orElseThrow()));
        }
        threads.shutdown();
        List<ReceiptId> receipts = new ArrayList<>();
        for (Future<Outcome> answer : answers) {
            Outcome outcome = answer.get();
            if (!(outcome instanceof Outcome.Busy)) {
                receipts.add(outcome.receiptOrThrow().id());
            }
        }
        assertThat(receipts.stream().distinct()).hasSize(1);
        assertThat(office.bench.count("boat")).isEqualTo(3);
        try (Stream<TrailEntry> entries = office.node().history().open()) {
            assertThat(entries).hasSize(1);
        }
    }

    @OnEveryEngine
    void isThereOnlyForWhoWasAskedInTheSameScope(Engine engine) {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(OSPREY);

        office.actor = "Jonas Berg";
        assertThat(office.state(question)).isEmpty();
        assertThat(office.node().questions().answer(question.id(), "yes")).isEmpty();
        assertThat(office.node().questions().withdraw(question.id())).isEmpty();
        office.actor = "Mira Holm";
        office.scope = Scope.where("harbour_id", 1);
        assertThat(office.state(question)).isEmpty();
        assertThat(office.node().questions().answer(question.id(), "yes")).isEmpty();
        assertThat(office.node().questions().find(QuestionId.next())).isEmpty();
        assertThat(office.bench.count("boat")).isEqualTo(4);
        office.scope = Scope.everything();
        assertThat(office.state(question)).contains(State.OPEN);
    }

    @OnEveryEngine
    void isDeclinedWithTheThirdWrongText(Engine engine) {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(Request.delete("boat").keys(1, 2, 4));

        assertThat(question.question().strength()).isEqualTo(Strength.COUNT);
        for (String wrong : List.of("yes", "4", "three")) {
            assertThat(office.node().questions().answer(question.id(), wrong).orElseThrow())
                    .isInstanceOf(Outcome.Declined.class);
        }
        assertThat(office.state(question)).contains(State.DECLINED);
        assertThat(office.node().questions().answer(question.id(), "3")).isEmpty();
        assertThat(office.bench.count("boat")).isEqualTo(4);
    }

    @OnEveryEngine
    void whoSaysNoIsInTheHistory(Engine engine) {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(OSPREY);

        assertThat(office.node().questions().withdraw(question.id()).orElseThrow())
                .isInstanceOf(Outcome.Declined.class);
        assertThat(office.node().questions().withdraw(question.id())).isEmpty();
        assertThat(office.node().questions().answer(question.id(), "yes")).isEmpty();

        assertThat(office.state(question)).contains(State.DECLINED);
        assertThat(office.bench.count("boat")).isEqualTo(4);
        try (Stream<TrailEntry> entries = office.node().history().of("boat", 1).open()) {
            List<TrailEntry> all = entries.toList();
            assertThat(all).extracting(entry -> entry.ending().word()).containsExactly("declined");
            assertThat(all.get(0).confirmation().words())
                    .isEqualTo(question.question().title());
        }
    }

    @OnEveryEngine
    void expiresAndIsRemovedSomeTimeAfter(Engine engine) {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(OSPREY);

        office.clock.now = office.clock.now.plus(Duration.ofMinutes(19));
        assertThat(office.state(question)).contains(State.OPEN);
        office.clock.now = office.clock.now.plus(Duration.ofMinutes(1));
        assertThat(office.state(question)).contains(State.EXPIRED);
        assertThat(office.node().questions().answer(question.id(), "yes")).isEmpty();
        office.clock.now = office.clock.now.plus(Duration.ofMinutes(21));
        office.asked(OSPREY);
        assertThat(office.state(question)).isEmpty();
        assertThat(office.bench.count("boat")).isEqualTo(4);
    }

    @OnEveryEngine
    void whatChangedSinceEndsIt(Engine engine) {
        Office office = new Office(engine);
        OpenQuestion question = office.asked(OSPREY);
        office.bench.database().run("UPDATE boat SET name = 'Osprey II' WHERE id = 1");

        assertThat(office.node().questions().answer(question.id(), "yes").orElseThrow())
                .isInstanceOf(Outcome.Changed.class);
        assertThat(office.state(question)).contains(State.CHANGED);
        assertThat(office.node().questions().answer(question.id(), "yes")).isEmpty();
        assertThat(office.bench.count("boat")).isEqualTo(4);
    }

    @OnEveryEngine
    void namedDeletionsRestoresAndConditionsAreKeptWhole(Engine engine) {
        Office office = new Office(engine);
        Request named = office.node().request("left-before", Map.of("day", "2020-06-01"));
        OpenQuestion question = office.asked(named);

        Outcome done = office.node().questions().answer(question.id(), "yes").orElseThrow();
        assertThat(done.receiptOrThrow().deletion()).isEqualTo("left-before");
        assertThat(done.receiptOrThrow().rows()).isEqualTo(2);

        OpenQuestion back = office.asked(Request.restore(done.receiptOrThrow().id()));
        assertThat(office.node()
                        .questions()
                        .answer(back.id(), "yes")
                        .orElseThrow()
                        .state())
                .isEqualTo(Outcome.State.DONE);
        OpenQuestion some = office.asked(Request.delete("boat")
                .where(column("left_on").before(LocalDate.of(2020, 6, 1)))
                .limit(1));
        assertThat(office.node()
                        .questions()
                        .answer(some.id(), "yes")
                        .orElseThrow()
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(1);
        assertThat(office.bench.count("boat")).isEqualTo(3);
    }

    @OnEveryEngine
    void nobodyIsAskedWhoseAnswerWouldBeRefused(Engine engine) {
        Office office = new Office(engine);
        office.actor = "Tilda Voss";
        Preview seen = office.node().preview(OSPREY);

        assertThat(seen.state()).isEqualTo(Preview.State.READY);
        assertThat(office.node().questions().refusal(seen)).contains("Tilda Voss may only look.");
        assertThatThrownBy(() -> office.asked(OSPREY)).isInstanceOf(MisuseException.class);
        office.actor = "Mira Holm";
        assertThat(office.node().questions().refusal(seen)).isEmpty();
    }

    @Test
    void whatCannotBeKeptIsNotAsked() {
        Office office = new Office(Engine.SQLITE);
        Vacancy node = office.node();
        Preview chosen = node.preview(Request.delete("boat").everyRow().filter(row -> true));
        Preview gone = node.preview(Request.delete("boat").key(99));
        Preview own = node.preview(OSPREY.id("my-own"));

        assertThatThrownBy(() -> node.questions().open(chosen))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("code");
        assertThatThrownBy(() -> node.questions().open(gone)).hasMessageContaining("nothing");
        assertThatThrownBy(() -> node.questions().open(own)).hasMessageContaining("identity");
        assertThatThrownBy(() -> new QuestionId("1' OR '1'='1")).isInstanceOf(MisuseException.class);
        Vacancy bare = Bench.of(Engine.SQLITE, "CREATE TABLE pier (id INTEGER PRIMARY KEY)")
                .vacancy();
        assertThatThrownBy(() -> bare.questions().find(QuestionId.next())).isInstanceOf(NotSetUpException.class);
    }
}
