// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.OpenQuestions;
import io.vacancy.Vacancy;
import io.vacancy.cli.screen.Screen;
import io.vacancy.cli.screen.WaitingScreen;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.QuestionId;
import org.jspecify.annotations.Nullable;

/**
 * Deciding of what somebody else has asked for.
 *
 * @param asking how the one who decides is shown and asked
 */
record ApprovalFlow(Screen screen, ConfirmationFlow asking) {

    /** Shows it as it is now, asks, and carries it out on the account of the one who asked for it. */
    Outcome approve(Vacancy vacancy, QuestionId id) {
        OpenQuestion question = found(vacancy.questions(), id);
        Preview preview = screen.working(
                () -> vacancy.preview(asking.answers().in(question.request().withoutId())));
        if (!preview.fingerprint().equals(question.fingerprint())) {
            asking.show(vacancy, preview);
            return Outcome.Changed.since(null, preview);
        }
        screen.tell(WaitingScreen.asked(question));
        return asking.outcome(
                vacancy,
                preview,
                (shown, answer) -> ended(
                        vacancy.questions().approve(id, typed(shown, answer)).orElse(null), id));
    }

    Outcome decline(Vacancy vacancy, QuestionId id) {
        found(vacancy.questions(), id);
        return ended(vacancy.questions().decline(id).orElse(null), id);
    }

    private static OpenQuestion found(OpenQuestions questions, QuestionId id) {
        return questions
                .findWaiting(id)
                .orElseThrow(() -> new MisuseException(
                        "Nothing waits for your approval as " + id.value() + ".",
                        "It may be decided or expired, be your own, or be for others to approve; vacancy preview --waiting lists"
                                + " what waits."));
    }

    private static Outcome ended(@Nullable Outcome outcome, QuestionId id) {
        if (outcome == null) {
            throw new MisuseException(
                    "Somebody else has just decided of " + id.value() + ".", "vacancy history tells what was done.");
        }
        return outcome;
    }

    /** What was typed; where the question was waived, what it asks for. */
    static String typed(Preview preview, @Nullable Answer answer) {
        String awaited = preview.question().awaited();
        return answer != null ? answer.text() : awaited == null ? "" : awaited;
    }
}
