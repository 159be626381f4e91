// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.archive.ReceiptId;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.QuestionId;
import io.vacancy.request.NamedDeletion;
import java.time.Instant;
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
     * Whether a question is open and has had fewer wrong answers than this. Waits for those who are just counting one.
     */
    boolean admits(QuestionId id, int wrong);

    /**
     * Counts a wrong answer; with the last that is allowed the question is declined.
     *
     * @return whether the question was open
     */
    boolean countWrong(QuestionId id, int most);

    /**
     * Ends a question.
     *
     * @param receipt of what was done, or null
     * @return whether it was open
     */
    boolean end(QuestionId id, OpenQuestion.State state, @Nullable ReceiptId receipt);
}
