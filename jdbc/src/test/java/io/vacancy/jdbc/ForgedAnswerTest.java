// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.PreviewDocument;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.Confirmation.How;
import io.vacancy.trail.TrailEntry;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** What a client sends back is an answer and nothing else: whatever it makes of the question is judged here. */
class ForgedAnswerTest {

    private static final RuleBook STRICT =
            RuleBook.build(book -> book.question(0, Strength.COUNT).deletion("old", d -> d.from("mooring")
                    .where(ColumnRef.column("id").greaterThan(0L))
                    .atMost(2)));

    private static Vacancy strict(Bench bench) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(STRICT)
                .actor(() -> "Mira Holm")
                .open();
    }

    @OnEveryEngine
    void aWeakerQuestionInTheDocumentDoesNotHelp(Engine engine) throws Exception {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = strict(bench);
        Request request = Request.erase("boat").key(1);
        Preview preview = vacancy.preview(request);
        assertThat(preview.question().strength()).isEqualTo(Strength.COUNT);
        for (String strength : List.of("none", "yes-no")) {
            ObjectNode document = (ObjectNode) new ObjectMapper().readTree(new JsonWriter().write(preview));
            ((ObjectNode) document.get("question")).put("strength", strength).put("awaited", "yes");
            PreviewDocument forged = new JsonReader(vacancy.schema()).preview(document.toString());
            assertThat(forged.question().accepts("yes")).isTrue();
            assertThat(vacancy.execute(request, forged.answer("yes"))).isInstanceOf(Outcome.Declined.class);
            assertThat(vacancy.execute(preview, forged.answer("yes"))).isInstanceOf(Outcome.Declined.class);
        }
        String forgedAnswer =
                "{\"version\":1,\"text\":\"no\",\"accepted\":true,\"fingerprint\":\"" + preview.fingerprint() + "\"}";
        assertThat(vacancy.execute(request, new JsonReader(vacancy.schema()).answer(forgedAnswer)))
                .isInstanceOf(Outcome.Declined.class);
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(vacancy.execute(request, Answer.of(preview.fingerprint(), "6")))
                .isInstanceOf(Outcome.Done.class);
    }

    @OnEveryEngine
    void whatOnlyCodeMaySayNoDocumentCan(Engine engine) {
        for (String forbidden : List.of(
                "\"without-confirmation\": \"trust me\"",
                "\"accept-unasked\": true",
                "\"deletion\": \"old\"",
                "\"continues\": \"01a20791-5371-7acc-8933-1b2981df1963\"",
                "\"decided-in-code\": true",
                "\"mode\": \"erase\"",
                "\"successor\": {\"values\": {}}",
                "\"receipt\": \"x\"",
                "\"due\": true")) {
            String json = "{\"version\": 1, \"operation\": \"erase\", \"table\": \"boat\","
                    + " \"selection\": {\"keys\": [{\"id\": 1}]}, " + forbidden + "}";
            assertThatThrownBy(() -> JsonReader.request(json)).as(forbidden).isInstanceOf(MisuseException.class);
        }
        for (String selection : List.of(
                "{}",
                "{\"keys\": []}",
                "{\"match\": {}}",
                "{\"where\": null}",
                "{\"every-row\": false}",
                "{\"all\": 1}",
                "{\"keys\": [{\"id\": 1}], \"every-row\": true}")) {
            String json =
                    "{\"version\": 1, \"operation\": \"erase\", \"table\": \"boat\", \"selection\": " + selection + "}";
            assertThatThrownBy(() -> JsonReader.request(json)).as(selection).isInstanceOf(MisuseException.class);
        }
    }

    @OnEveryEngine
    void theLimitsOfANamedDeletionAreThoseOfTheRuleBook(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = strict(bench);
        Request named = vacancy.request("old", Map.of());
        assertThat(vacancy.preview(named.atMost(1_000)).refusal()).contains("at most 2");
        Outcome outcome = vacancy.execute(named.atMost(1_000).withoutConfirmation("a test"));
        assertThat(outcome).isInstanceOf(Outcome.Refused.class);
        assertThat(bench.count("mooring")).isEqualTo(4);
    }

    @OnEveryEngine
    void noFingerprintButThatOfAReadyPreviewIsWorthAnything(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        RuleBook blocks = RuleBook.build(book -> book.relation("mooring.boat_id", Rule.block("paid for")));
        Vacancy blocked = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(blocks)
                .actor(() -> "Mira Holm")
                .open();
        Request request = Request.erase("boat").key(1);
        Preview refused = blocked.preview(request);
        assertThat(refused.state()).isEqualTo(Preview.State.BLOCKED);
        Vacancy vacancy = bench.vacancy();
        assertThat(vacancy.execute(request, Answer.of(refused.fingerprint(), "yes")))
                .isInstanceOf(Outcome.Changed.class);

        Preview seen = vacancy.preview(request);
        bench.database().run("INSERT INTO sticker VALUES (9, 1)");
        Outcome changed = vacancy.execute(seen, seen.question().answer("yes"));
        assertThat(changed).isInstanceOf(Outcome.Changed.class);
        String now = vacancy.preview(request).fingerprint();
        assertThat(new JsonWriter().write(changed)).doesNotContain(now).contains("sticker");
        assertThat(changed.message()).doesNotContain(now);
        assertThat(vacancy.execute(request, Answer.of(seen.fingerprint(), "yes"))
                        .message())
                .doesNotContain(now);
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    @OnEveryEngine
    void anAnswerIsGoodForOneOperationOnly(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.database().run("ALTER TABLE sticker ADD left_on DATE");
        RuleBook marks =
                RuleBook.build(book -> book.table("sticker", t -> t.marker(io.vacancy.rules.Marker.date("left_on"))
                        .mode(Mode.SOFT_DELETE)));
        RuleBook erases =
                RuleBook.build(book -> book.table("sticker", t -> t.marker(io.vacancy.rules.Marker.date("left_on"))));
        Request request = Request.delete("sticker").key(4);
        Preview marking = on(bench, marks).preview(request);
        Preview erasing = on(bench, erases).preview(request);
        assertThat(marking.operation().word()).isEqualTo("soft-delete");
        assertThat(erasing.operation().word()).isEqualTo("erase");
        assertThat(on(bench, erases).execute(request, marking.question().answer("yes")))
                .isInstanceOf(Outcome.Changed.class);
        assertThat(on(bench, marks).execute(erasing, erasing.question().answer("yes")))
                .isInstanceOf(Outcome.Changed.class);
        assertThat(bench.count("sticker WHERE left_on IS NULL")).isEqualTo(4);
    }

    private static Vacancy on(Bench bench, RuleBook rules) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
    }

    @OnEveryEngine
    void anExpectedCountStandsForAYesOnly(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = strict(bench);
        Outcome counted = vacancy.execute(Request.erase("boat").key(1).expect(1));
        assertThat(counted).isInstanceOf(Outcome.Refused.class);
        assertThat(counted.message()).contains("requires the number of rows to be typed");
        assertThat(vacancy.execute(Request.erase("boat").key(1).acceptUnasked()))
                .isInstanceOf(Outcome.Refused.class);
        assertThatThrownBy(() -> vacancy.execute(Request.erase("boat").key(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("Confirmation is required");
        // Every row is asked for by the table's name, whatever else the rule book says.
        assertThat(bench.vacancy()
                        .execute(Request.erase("sticker")
                                .where(ColumnRef.column("id").atLeast(0L))
                                .expect(4)))
                .isInstanceOf(Outcome.Refused.class);
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(bench.count("sticker")).isEqualTo(4);
    }

    @OnEveryEngine
    void theTrailTellsHowItWasAgreed(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = bench.vacancy();
        Preview first = vacancy.preview(Request.erase("sticker").key(1));
        vacancy.execute(first, first.question().answer(" Yes ")).receiptOrThrow();
        Preview second = vacancy.preview(Request.erase("sticker").key(2).acceptUnasked());
        vacancy.execute(second).receiptOrThrow();
        vacancy.execute(Request.erase("sticker").key(3).expect(1)).receiptOrThrow();
        vacancy.execute(Request.erase("sticker").key(4).withoutConfirmation("nightly"))
                .receiptOrThrow();
        Vacancy silent = on(bench, RuleBook.build(book -> book.question(0, Strength.NONE)));
        Preview fifth = silent.preview(Request.erase("mooring").key(11));
        silent.execute(fifth, fifth.question().answer(null)).receiptOrThrow();

        List<TrailEntry> entries;
        try (Stream<TrailEntry> all = vacancy.history().open()) {
            entries = all.toList();
        }
        assertThat(entries)
                .extracting(entry -> entry.confirmation().how())
                .containsExactly(
                        How.NOT_REQUIRED, How.WITHOUT_CONFIRMATION, How.EXPECTED, How.ACCEPTED_UNASKED, How.QUESTION);
        assertThat(entries)
                .extracting(entry -> entry.confirmation().answer())
                .containsExactly(null, null, null, null, "Yes");
        assertThat(entries)
                .extracting(entry -> entry.confirmation().fingerprint())
                .containsExactly(fifth.fingerprint(), null, null, second.fingerprint(), first.fingerprint());
        assertThat(entries.get(2).confirmation().words()).isEqualTo("1 row");
        assertThat(entries.get(1).confirmation().words()).isEqualTo("nightly");
    }

    @OnEveryEngine
    void aRequestSaysWhatItDoes(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = bench.vacancy();
        // A replacement is told as one, and needs the permission to change.
        Vacancy onlyErasing = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .permission((who, table, act) ->
                        act.words().startsWith("erase") || act.words().startsWith("look")
                                ? null
                                : who + " may not " + act.words() + " " + table + ".")
                .open();
        var gone = vacancy.execute(Request.erase("boat").key(1).expect(1)).receiptOrThrow();
        Preview back = vacancy.preview(Request.restore(gone.id()));
        assertThat(back.question().title()).startsWith("Restore boat Osprey");
        assertThat(onlyErasing.execute(Request.restore(gone.id()).expect(1))).isInstanceOf(Outcome.Refused.class);
        Preview purge = vacancy.preview(Request.purge(gone.id()));
        assertThat(purge.question().title()).startsWith("Purge");
        assertThat(onlyErasing.execute(Request.purge(gone.id()).withoutConfirmation("a test")))
                .isInstanceOf(Outcome.Refused.class);
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(bench.count("vacancy_image")).isPositive();
    }
}
