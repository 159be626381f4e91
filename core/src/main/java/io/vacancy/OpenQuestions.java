// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.access.ScopeMarks;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.execute.Installation;
import io.vacancy.internal.execute.RequestExecutor;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.Question;
import io.vacancy.question.QuestionId;
import io.vacancy.schema.Table;
import io.vacancy.spi.QuestionStore;
import io.vacancy.spi.RequestDigest;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Questions that wait in the database for their answer, for people who are asked on one page and answer on the next: they
 * survive a restart and are answered on any node of the application. Each is there only for the actor who was asked, in the
 * scope in which it was asked, until it expires; it gives one receipt, however often it is answered. Serves all threads.
 *
 * <p>Every method throws a {@link NotSetUpException} where Vacancy's own tables are not set up.
 */
public final class OpenQuestions {

    /** With how many wrong answers a question is declined. */
    public static final int WRONG_ANSWERS = 3;

    private final Installation at;
    private final RequestExecutor executor;

    OpenQuestions(Installation at, RequestExecutor executor) {
        this.at = at;
        this.executor = executor;
    }

    /**
     * Keeps the question of a preview until it is answered.
     *
     * @throws MisuseException if the preview is not ready, the actor may not carry it out, or its request has parts that
     *     cannot be kept: rows chosen by code, a saved copy, more than 10,000 keys, an identity of its own
     */
    public OpenQuestion open(Preview preview) {
        Arguments.notNull(preview, "preview");
        at.wantsOwnTables();
        if (preview.state() != Preview.State.READY) {
            throw new MisuseException(
                    "The preview is " + preview.state().word() + ", so there is nothing to ask.",
                    "Open the question of a preview that is ready.");
        }
        String refusal = refusal(preview).orElse(null);
        if (refusal != null) {
            throw new MisuseException(refusal, "Ask somebody who may.");
        }
        if (preview.request().id() != null) {
            throw new MisuseException(
                    "The request has an identity of its own, and an open question gives it another.",
                    "Leave id(…) out.");
        }
        Instant now = at.settings().clock.instant();
        QuestionId id = QuestionId.next();
        Question question = preview.question();
        OpenQuestion open = OpenQuestion.of(new OpenQuestion.Data(
                id,
                preview.request().id(id.value()),
                question,
                at.actor(),
                scopes(),
                now,
                now.plus(at.settings().questionLifetime),
                State.OPEN,
                0,
                null,
                null));
        store().keep(open, now.minus(at.settings().questionLifetime));
        wantsWhole(open);
        return open;
    }

    /**
     * Why the actor may not carry out what a preview shows, in a sentence. Whoever may look at rows may see what a request
     * would do to them; nobody should be asked for an answer that is refused.
     */
    public Optional<String> refusal(Preview preview) {
        return Optional.ofNullable(executor.refusal(Arguments.notNull(preview, "preview")));
    }

    /** What is read back is what is carried out, so it must be the same to the last part. */
    private void wantsWhole(OpenQuestion open) {
        OpenQuestion kept = store().find(open.id(), at.rules()::deletion);
        if (kept == null || !RequestDigest.of(kept.request()).equals(RequestDigest.of(open.request()))) {
            store().end(open.id(), State.OPEN, State.DECLINED, null, null);
            throw new MisuseException(
                    "The request to " + open.request()
                            + " cannot be kept as it is: parts of it can only be said in code.",
                    "Make the request from a table, keys, a condition or a named deletion alone.");
        }
    }

    /** A question and how it stands; empty where there is none for this actor in this scope. */
    public Optional<OpenQuestion> find(QuestionId id) {
        Arguments.notNull(id, "id");
        at.wantsOwnTables();
        return Optional.ofNullable(visible(id));
    }

    /**
     * Answers a question, and carries out what it asks about if the answer is enough and everything is as it was shown.
     * Answering again, at once or later, gives the same receipt and does nothing.
     *
     * @param typed what was typed; an empty text where nothing was
     * @return how it ended; empty where no such question is open any more, of which {@link #find} tells how it stands
     */
    public Optional<Outcome> answer(QuestionId id, String typed) {
        Arguments.notNull(typed, "typed");
        OpenQuestion question = find(id).orElse(null);
        if (question == null) {
            return Optional.empty();
        }
        Outcome before = executor.repeated(question.request());
        if (before != null) {
            store().end(
                            id,
                            State.OPEN,
                            State.DONE,
                            null,
                            before.receiptOrThrow().id());
            return Optional.of(before);
        }
        boolean enough = question.question().accepts(typed);
        boolean open = question.state() == State.OPEN
                && (enough
                        ? store().admits(id, State.OPEN, WRONG_ANSWERS)
                        : store().countWrong(id, State.OPEN, WRONG_ANSWERS));
        if (!open) {
            // Somebody may have answered it in between.
            return Optional.ofNullable(executor.repeated(question.request()));
        }
        Answer answer = Answer.of(question.fingerprint(), typed);
        Outcome outcome = enough
                ? executor.execute(question.request(), answer)
                : executor.decline(question.request(), question.question(), typed);
        if (outcome instanceof Outcome.Waiting waiting) {
            boolean waits = store().waits(id, at.settings().clock.instant().plus(at.settings().approvalLifetime));
            // Somebody may have withdrawn it in between.
            return waits ? Optional.of(new Outcome.Waiting(waiting.preview(), waiting.reason(), id)) : Optional.empty();
        }
        settle(id, State.OPEN, outcome, enough, null);
        return Optional.of(outcome);
    }

    private void settle(QuestionId id, State in, Outcome outcome, boolean enough, @Nullable String decidedBy) {
        if (outcome instanceof Outcome.Done done) {
            store().end(id, in, State.DONE, decidedBy, done.receipt().id());
        } else if (outcome instanceof Outcome.Changed) {
            store().end(id, in, State.CHANGED, null, null);
        } else if (enough && outcome instanceof Outcome.Declined) {
            // The rule book asks for more by now.
            store().countWrong(id, in, WRONG_ANSWERS);
        }
    }

    /**
     * Says no. The audit history has it as declined.
     *
     * @return how it ended; empty where no such question is open any more
     */
    public Optional<Outcome> withdraw(QuestionId id) {
        OpenQuestion question = find(id).orElse(null);
        if (question == null || !question.pending() || !store().end(id, question.state(), State.DECLINED, null, null)) {
            return Optional.empty();
        }
        return Optional.of(executor.decline(question.request(), question.question(), "no"));
    }

    /**
     * What others have asked for and agreed to, and what waits for an approval that the actor may give, in the order in which
     * it was asked. Only what was asked in the scope that the actor has, or by one who sees no more; not what the actor asked.
     */
    public List<OpenQuestion> waiting() {
        at.wantsOwnTables();
        Instant now = at.settings().clock.instant();
        return store().waiting(at.rules()::deletion).stream()
                .map(question -> question.at(now))
                .filter(this::mayDecide)
                .toList();
    }

    /** One of those that {@link #waiting} tells of; empty where it is not among them. */
    public Optional<OpenQuestion> findWaiting(QuestionId id) {
        Arguments.notNull(id, "id");
        at.wantsOwnTables();
        OpenQuestion question = store().find(id, at.rules()::deletion);
        return Optional.ofNullable(question)
                .map(found -> found.at(at.settings().clock.instant()))
                .filter(this::mayDecide);
    }

    private boolean mayDecide(OpenQuestion question) {
        ScopeMarks own = scopes();
        boolean seen = own.equals(question.scopes()) || own.equals(ScopeMarks.NONE);
        return question.state() == State.WAITING
                && !question.by().equals(at.actor())
                && seen
                && executor.refusal(question.request(), Act.APPROVE) == null;
    }

    /**
     * Approves what somebody else has asked for and agreed to, and carries it out on the account of the one who asked, if the
     * answer is enough and everything is as it was shown to that one. What the one who asked may do is judged anew. The audit
     * history has both names.
     *
     * @param typed what was typed, as for {@link #answer}
     * @return how it ended; empty where it does not wait for the actor's approval
     */
    public Optional<Outcome> approve(QuestionId id, String typed) {
        Arguments.notNull(typed, "typed");
        OpenQuestion question = findWaiting(id).orElse(null);
        if (question == null) {
            return Optional.empty();
        }
        boolean enough = question.question().accepts(typed);
        boolean waits = enough
                ? store().admits(id, State.WAITING, WRONG_ANSWERS)
                : store().countWrong(id, State.WAITING, WRONG_ANSWERS);
        if (!waits) {
            return Optional.empty();
        }
        String approver = at.actor();
        Outcome outcome = enough
                ? executor.onAccountOf(question.by())
                        .approve(question.request(), Answer.of(question.fingerprint(), typed), approver)
                : executor.decline(question.request(), question.question(), typed);
        settle(id, State.WAITING, outcome, enough, approver);
        return Optional.of(outcome);
    }

    /**
     * Declines what somebody else has asked for. The audit history has it as declined, by the actor.
     *
     * @return how it ended; empty where it does not wait for the actor's approval
     */
    public Optional<Outcome> decline(QuestionId id) {
        OpenQuestion question = findWaiting(id).orElse(null);
        if (question == null || !store().end(id, State.WAITING, State.DECLINED, at.actor(), null)) {
            return Optional.empty();
        }
        return Optional.of(executor.decline(question.request(), question.question(), "no"));
    }

    private QuestionStore store() {
        return at.store().questions();
    }

    private @Nullable OpenQuestion visible(QuestionId id) {
        OpenQuestion question = store().find(id, at.rules()::deletion);
        boolean theirs = question != null
                && question.by().equals(at.actor())
                && question.scopes().equals(scopes());
        return question != null && theirs ? question.at(at.settings().clock.instant()) : null;
    }

    private ScopeMarks scopes() {
        AccessRights visible = at.visible();
        return ScopeMarks.of(visible.conditions(at.schema().tables().stream().map(Table::name)));
    }
}
