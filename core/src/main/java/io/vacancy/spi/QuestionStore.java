// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.archive.ReceiptId;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.QuestionId;
import io.vacancy.request.NamedDeletion;
import java.time.Instant;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Where open questions wait. Each call is a transaction of its own, that is committed when it returns. */
public interface QuestionStore {

    /**
     * Keeps a question.
     *
     * @param obsolete questions that expired before this are removed
     */
    void keep(OpenQuestion question, Instant obsolete);

    /**
     * A question as it was kept, or null.
     *
     * @param deletions those of the rule book, by name
     */
    @Nullable
    OpenQuestion find(QuestionId id, Function<String, NamedDeletion> deletions);

    /**
     * Those that wait for an approval, as they were kept, in the order in which they were asked.
     *
     * @param deletions those of the rule book, by name
     */
    List<OpenQuestion> waiting(Function<String, NamedDeletion> deletions);

    /**
     * Whether a question stands so and has had fewer wrong answers than this. Waits for those who are just counting one.
     */
    boolean admits(QuestionId id, State in, int wrong);

    /**
     * Counts a wrong answer; with the last that is allowed the question is declined.
     *
     * @return whether the question stood so
     */
    boolean countWrong(QuestionId id, State in, int most);

    /**
     * A question that was answered waits for an approval, and counts wrong answers anew.
     *
     * @param expiresAt until when
     * @return whether it was open
     */
    boolean waits(QuestionId id, Instant expiresAt);

    /**
     * Ends a question.
     *
     * @param in as it stood
     * @param decidedBy who else has approved or declined it, or null
     * @param receipt of what was done, or null
     * @return whether it stood so
     */
    boolean end(QuestionId id, State in, State state, @Nullable String decidedBy, @Nullable ReceiptId receipt);
}
