// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.PreviewDocument;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.RowSample;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Relation;
import java.util.Map;

/** Rows whose parent is missing: found, erased with what hangs on them, or kept without their link. */
class OrphansTest {

    private static final String SIGN = "message.sign -> boat.sign";
    private static final String REPLY = "reply.message_id -> message.id";

    private static Bench messages(Engine engine) {
        return Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, sign VARCHAR(8))",
                "CREATE TABLE message (id INTEGER NOT NULL PRIMARY KEY, sign VARCHAR(8), owner INTEGER NOT NULL)",
                "CREATE TABLE reply (id INTEGER NOT NULL PRIMARY KEY, message_id INTEGER NOT NULL)",
                "INSERT INTO boat VALUES (1, 'VQ1')",
                "INSERT INTO message VALUES (1, 'VQ1', 1)",
                "INSERT INTO message VALUES (2, 'XX9', 1)",
                "INSERT INTO message VALUES (3, NULL, 1)",
                "INSERT INTO message VALUES (4, 'YY9', 2)",
                "INSERT INTO reply VALUES (1, 2)",
                "INSERT INTO reply VALUES (2, 77)");
    }

    private static Vacancy open(Bench bench, Scope scope) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book -> book.relation(SIGN, Rule.leave()).relation(REPLY, Rule.cascade())))
                .actor(() -> "Mira Holm")
                .scope(() -> scope)
                .open();
    }

    @OnEveryEngine
    void areListedByRelationAndNullIsNone(Engine engine) {
        Bench bench = messages(engine);

        Map<Relation, RowSample> all = open(bench, Scope.everything()).tables().orphans();

        assertThat(all).hasSize(2);
        all.forEach((relation, rows) ->
                assertThat(rows.rows()).isEqualTo(relation.child().name().equals("message") ? 2 : 1));
        assertThat(open(bench, Scope.where("owner", 2))
                        .tables()
                        .orphans("message.sign")
                        .values())
                .extracting(RowSample::rows)
                .containsExactly(1L);
    }

    @OnEveryEngine
    void goThroughTheSamePreviewAndQuestion(Engine engine) {
        Bench bench = messages(engine);
        Vacancy vacancy = open(bench, Scope.everything());

        Preview seen = vacancy.preview(Request.delete("message").orphansOf("message.sign"));
        PreviewDocument shown = new JsonReader(vacancy.schema()).preview(new JsonWriter().write(seen));
        Receipt receipt = vacancy.execute(seen.request(), shown.answer("yes")).receiptOrThrow();

        assertThat(seen.question().title()).contains("2 rows of message whose parent by message.sign is missing");
        assertThat(receipt.totals()).containsExactly(Map.entry(Action.DELETE, 3L));
        assertThat(bench.count("message")).isEqualTo(2);
        assertThat(bench.count("reply")).isEqualTo(1);
        assertThat(vacancy.execute(
                        Request.delete("message").orphansOf("message.sign").withoutConfirmation("again")))
                .isInstanceOf(Outcome.Nothing.class);
    }

    @OnEveryEngine
    void orStayAndLoseTheirLink(Engine engine) {
        Bench bench = messages(engine);
        Vacancy vacancy = open(bench, Scope.everything());

        Preview seen = vacancy.preview(Request.unlinkOrphans("message.sign"));
        Receipt receipt = vacancy.execute(seen, seen.question().answer("yes")).receiptOrThrow();

        assertThat(seen.question().consequences()).contains("The rows stay; what they refer to now is lost.");
        assertThat(receipt.totals()).containsExactly(Map.entry(Action.SET_NULL, 2L));
        assertThat(bench.count("message")).isEqualTo(4);
        assertThat(bench.count("message WHERE sign IS NULL")).isEqualTo(3);
        assertThatThrownBy(() -> vacancy.preview(Request.unlinkOrphans("reply.message_id")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("cannot be NULL");
        assertThatThrownBy(() -> vacancy.preview(Request.delete("boat").orphansOf("message.sign")))
                .hasMessageContaining("Rows of boat have no parent by message.sign");
    }
}
