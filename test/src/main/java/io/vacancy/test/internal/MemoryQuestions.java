// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.archive.ReceiptId;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.QuestionId;
import io.vacancy.request.NamedDeletion;
import io.vacancy.spi.QuestionStore;
import java.time.Instant;
import java.util.HashMap;
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
    public synchronized boolean admits(QuestionId id, int wrong) {
        OpenQuestion question = questions.get(id);
        return question != null && question.state() == State.OPEN && question.wrongAnswers() < wrong;
    }

    @Override
    public synchronized boolean countWrong(QuestionId id, int most) {
        OpenQuestion question = questions.get(id);
        int wrong = question == null ? 0 : question.wrongAnswers() + 1;
        return changed(id, wrong >= most ? State.DECLINED : State.OPEN, wrong, null);
    }

    @Override
    public synchronized boolean end(QuestionId id, State state, @Nullable ReceiptId receipt) {
        OpenQuestion question = questions.get(id);
        return changed(id, state, question == null ? 0 : question.wrongAnswers(), receipt);
    }

    private boolean changed(QuestionId id, State state, int wrong, @Nullable ReceiptId receipt) {
        OpenQuestion of = questions.get(id);
        if (of == null || of.state() != State.OPEN) {
            return false;
        }
        questions.put(
                id,
                OpenQuestion.of(new OpenQuestion.Data(
                        id,
                        of.request(),
                        of.question(),
                        of.by(),
                        of.scopes(),
                        of.askedAt(),
                        of.expiresAt(),
                        state,
                        wrong,
                        receipt)));
        return true;
    }
}
