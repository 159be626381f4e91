// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.archive.ReceiptId;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.QuestionId;
import io.vacancy.request.NamedDeletion;
import io.vacancy.spi.QuestionStore;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Open questions in memory. */
final class MemoryQuestions implements QuestionStore {

    private final Map<QuestionId, OpenQuestion> questions = new HashMap<>();

    @Override
    public synchronized void keep(OpenQuestion question, Instant obsolete) {
        questions.values().removeIf(kept -> kept.expiresAt().isBefore(obsolete));
        questions.put(question.id(), question);
    }

    @Override
    public synchronized @Nullable OpenQuestion find(QuestionId id, Function<String, NamedDeletion> deletions) {
        return questions.get(id);
    }

    @Override
    public synchronized List<OpenQuestion> waiting(Function<String, NamedDeletion> deletions) {
        return questions.values().stream()
                .filter(question -> question.state() == State.WAITING)
                .sorted(Comparator.comparing(OpenQuestion::askedAt))
                .toList();
    }

    @Override
    public synchronized boolean admits(QuestionId id, State in, int wrong) {
        OpenQuestion question = questions.get(id);
        return question != null && question.state() == in && question.wrongAnswers() < wrong;
    }

    @Override
    public synchronized boolean countWrong(QuestionId id, State in, int most) {
        OpenQuestion of = questions.get(id);
        int wrong = of == null ? 0 : of.wrongAnswers() + 1;
        return of != null
                && changed(of, in, wrong >= most ? State.DECLINED : in, of.expiresAt(), wrong, of.decidedBy(), null);
    }

    @Override
    public synchronized boolean waits(QuestionId id, Instant expiresAt) {
        OpenQuestion of = questions.get(id);
        return of != null && changed(of, State.OPEN, State.WAITING, expiresAt, 0, null, null);
    }

    @Override
    public synchronized boolean end(
            QuestionId id, State in, State state, @Nullable String decidedBy, @Nullable ReceiptId receipt) {
        OpenQuestion of = questions.get(id);
        return of != null && changed(of, in, state, of.expiresAt(), of.wrongAnswers(), decidedBy, receipt);
    }

    private boolean changed(
            OpenQuestion of,
            State in,
            State state,
            Instant expiresAt,
            int wrong,
            @Nullable String decidedBy,
            @Nullable ReceiptId receipt) {
        if (of.state() != in) {
            return false;
        }
        questions.put(
                of.id(),
                OpenQuestion.of(new OpenQuestion.Data(
                        of.id(),
                        of.request(),
                        of.question(),
                        of.by(),
                        of.scopes(),
                        of.askedAt(),
                        expiresAt,
                        state,
                        wrong,
                        decidedBy,
                        receipt)));
        return true;
    }
}
