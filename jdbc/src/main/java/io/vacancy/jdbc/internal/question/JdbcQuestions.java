// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.question;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.OwnTableTransactions;
import io.vacancy.jdbc.internal.tables.StoredScopes;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import io.vacancy.question.QuestionId;
import io.vacancy.request.NamedDeletion;
import io.vacancy.spi.QuestionStore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/** Open questions in the user's own database. */
public final class JdbcQuestions implements QuestionStore {

    private static final StatementContext KEEPING = new StatementContext("keeping an open question", null, null);
    private static final StatementContext READING = new StatementContext("reading an open question", null, null);
    private static final StatementContext ENDING = new StatementContext("ending an open question", null, null);

    private final OwnTables tables;
    private final OwnTableTransactions work;

    public JdbcQuestions(OwnTables tables, OwnTableTransactions work) {
        this.tables = tables;
        this.work = work;
    }

    @Override
    public void keep(OpenQuestion question, Instant obsolete) {
        String request = new JsonWriter().write(question.request());
        work.writing(session -> {
            session.update(
                    Sql.of("DELETE FROM " + name(session) + " WHERE expires_at < ")
                            .bind(Times.written(obsolete), OwnTables.TEXT),
                    KEEPING);
            Sql insert = Sql.of("INSERT INTO " + name(session)
                    + " (id, actor, scopes, request, fingerprint, strength, title, awaited, asked_at, expires_at, state,"
                    + " wrong_answers) VALUES (");
            for (@Nullable
            String value : Arrays.asList(
                    question.id().value(),
                    question.by(),
                    StoredScopes.written(question.scopes()),
                    request,
                    question.fingerprint(),
                    question.question().strength().word(),
                    question.question().title(),
                    question.question().awaited(),
                    Times.written(question.askedAt()),
                    Times.written(question.expiresAt()),
                    question.state().word())) {
                (value == null ? insert.add("NULL") : insert.bind(value, OwnTables.TEXT)).add(", ");
            }
            return session.update(insert.add("0)"), KEEPING);
        });
    }

    @Override
    public @Nullable OpenQuestion find(QuestionId id, Function<String, NamedDeletion> deletions) {
        List<OpenQuestion> found =
                found(where -> where.add(" WHERE id = ").bind(id.value(), OwnTables.TEXT), deletions);
        return found.isEmpty() ? null : found.get(0);
    }

    @Override
    public List<OpenQuestion> waiting(Function<String, NamedDeletion> deletions) {
        return found(
                where -> where.add(" WHERE state = ")
                        .bind(State.WAITING.word(), OwnTables.TEXT)
                        .add(" ORDER BY asked_at, id"),
                deletions);
    }

    private List<OpenQuestion> found(UnaryOperator<Sql> which, Function<String, NamedDeletion> deletions) {
        return work.looking(session -> session.query(
                which.apply(Sql.of("SELECT request, strength, title, awaited, fingerprint, actor, scopes, asked_at,"
                        + " expires_at, state, wrong_answers, receipt_id, decided_by, id FROM " + name(session))),
                READING,
                row -> read(row, deletions)));
    }

    private static OpenQuestion read(ResultSet row, Function<String, NamedDeletion> deletions) throws SQLException {
        Question question = new Question(
                word(Strength.values(), Strength::word, row.getString(2)),
                row.getString(3),
                List.of(),
                row.getString(4),
                row.getString(5));
        return OpenQuestion.of(new OpenQuestion.Data(
                new QuestionId(row.getString(14)),
                JsonReader.request(row.getString(1), deletions),
                question,
                row.getString(6),
                StoredScopes.read(row.getString(7)),
                Objects.requireNonNull(Times.read(row.getString(8))),
                Objects.requireNonNull(Times.read(row.getString(9))),
                word(State.values(), State::word, row.getString(10)),
                row.getInt(11),
                row.getString(13),
                ReceiptId.ofNullable(row.getString(12))));
    }

    private static <E> E word(E[] all, Function<E, String> word, String written) {
        return Arrays.stream(all)
                .filter(each -> word.apply(each).equals(written))
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "The open question says \"" + written + "\", which this program does not know.",
                        "Use the newer program."));
    }

    @Override
    public boolean admits(QuestionId id, State in, int wrong) {
        // A change of nothing waits for whoever is just counting.
        return changed(id, in, Sql.of("state = state"), " AND wrong_answers < " + wrong);
    }

    @Override
    public boolean countWrong(QuestionId id, State in, int most) {
        // MariaDB assigns from left to right and reads what was assigned; so the state comes first.
        Sql count = Sql.of("state = CASE WHEN wrong_answers >= " + (most - 1) + " THEN ")
                .bind(State.DECLINED.word(), OwnTables.TEXT)
                .add(" ELSE state END, wrong_answers = wrong_answers + 1");
        return changed(id, in, count, "");
    }

    @Override
    public boolean waits(QuestionId id, Instant expiresAt) {
        Sql set = Sql.of("wrong_answers = 0, expires_at = ")
                .bind(Times.written(expiresAt), OwnTables.TEXT)
                .add(", state = ")
                .bind(State.WAITING.word(), OwnTables.TEXT);
        return changed(id, State.OPEN, set, "");
    }

    @Override
    public boolean end(QuestionId id, State in, State state, @Nullable String decidedBy, @Nullable ReceiptId receipt) {
        Sql set = Sql.of("state = ").bind(state.word(), OwnTables.TEXT);
        if (decidedBy != null) {
            set.add(", decided_by = ").bind(decidedBy, OwnTables.TEXT);
        }
        if (receipt != null) {
            set.add(", receipt_id = ").bind(receipt.value(), OwnTables.TEXT);
        }
        return changed(id, in, set, "");
    }

    /** Whether the question stood so and was changed. */
    private boolean changed(QuestionId id, State in, Sql set, String further) {
        return work.writing(session -> session.update(
                        new Sql()
                                .add("UPDATE " + name(session) + " SET ")
                                .add(set)
                                .add(" WHERE id = ")
                                .bind(id.value(), OwnTables.TEXT)
                                .add(" AND state = ")
                                .bind(in.word(), OwnTables.TEXT)
                                .add(further),
                        ENDING)
                == 1);
    }

    private String name(Session session) {
        return session.dialect().syntax().table(tables.table("question"));
    }
}
