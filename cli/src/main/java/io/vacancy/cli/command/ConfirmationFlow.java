// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.OpenQuestions;
import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.OutcomeScreen;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Answer;
import io.vacancy.question.QuestionId;
import io.vacancy.request.OperationKind;
import java.util.List;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/**
 * The way from a preview to what was done: shown, asked, carried out, told.
 *
 * @param database the one that is about to be changed
 */
record ConfirmationFlow(Screen screen, OutputOptions output, AnswerOptions answers, DatabaseOptions database) {

    /** Refuses a format that there is none in, before anything is looked at. */
    ConfirmationFlow {
        output.json();
    }

    /** Shows a preview, asks, and carries it out. */
    Outcome outcome(Vacancy vacancy, Preview preview) {
        return outcome(vacancy, preview, ConfirmationFlow.executing(vacancy));
    }

    /** Carries out what was shown with an answer, or with none where the request itself waives the question. */
    static BiFunction<Preview, @Nullable Answer, Outcome> executing(Vacancy vacancy) {
        return (preview, answer) -> answer == null ? vacancy.execute(preview) : vacancy.execute(preview, answer);
    }

    /**
     * Shows a preview and asks.
     *
     * @param executing carries it out with the answer; null where nobody was asked
     */
    Outcome outcome(Vacancy vacancy, Preview preview, BiFunction<Preview, @Nullable Answer, Outcome> executing) {
        show(vacancy, preview);
        if (answers.meanAnother(preview)) {
            return Outcome.Changed.since(null, preview);
        }
        Answer given = answers.given(preview, screen, database.named());
        Outcome outcome = screen.working(() -> executing.apply(preview, given));
        return outcome instanceof Outcome.Waiting waiting && waiting.question() == null
                ? waiting(vacancy, preview, given)
                : outcome;
    }

    /** What was agreed to is kept until somebody else has approved it. */
    private static Outcome waiting(Vacancy vacancy, Preview preview, @Nullable Answer given) {
        OpenQuestions questions = vacancy.questions();
        // Nothing that is kept waives a question.
        Preview asked = vacancy.preview(preview.request().withConfirmation());
        if (!asked.fingerprint().equals(preview.fingerprint())) {
            return Outcome.Changed.since(preview, asked);
        }
        QuestionId id = questions.open(asked).id();
        return questions
                .answer(id, ApprovalFlow.typed(asked, given))
                .orElseThrow(() -> new MisuseException("Somebody has withdrawn it meanwhile."));
    }

    /** Shows a preview to people. */
    void show(Vacancy vacancy, Preview preview) {
        if (!output.json() && preview.state() != State.NOTHING) {
            new PreviewScreen(vacancy, output.layout(screen)).lines(preview).forEach(screen::print);
            screen.print("");
        }
    }

    /** Whether something of it was marked, or is archived. */
    private static boolean restorable(Receipt receipt) {
        return switch (receipt.operation()) {
            case SOFT_DELETE -> true;
            case ERASE, TRUNCATE, MERGE, BLANK, FORGET, UNLINK_ORPHANS -> receipt.archived();
            case REPLACE, RESTORE, PURGE, DROP -> false;
        };
    }

    /** What can be done with what was done. */
    private void offer(Receipt receipt) {
        if (restorable(receipt)) {
            screen.next("To take it back:", NextStep.restore(receipt.id(), database.given()));
        }
        if (receipt.operation() == OperationKind.DROP && !receipt.definition().isEmpty()) {
            List<String> command = List.of("archive", "definition", receipt.id().value());
            screen.next(
                    "To see the statements that make it again, to be filled by vacancy restore:",
                    NextStep.of(command, database.given()));
        }
        if (receipt.operation() == OperationKind.FORGET) {
            List<String> command =
                    List.of("history", "certificate", receipt.id().value());
            screen.next("To say what was done, without personal values:", NextStep.of(command, database.given()));
        }
    }

    /** Says what was done. Returns the exit code. */
    int tell(Vacancy vacancy, Outcome outcome) {
        if (output.json()) {
            screen.printAll(database.json().write(outcome));
        } else {
            new OutcomeScreen(vacancy, output.layout(screen)).lines(outcome).forEach(screen::print);
            if (outcome instanceof Outcome.Done done) {
                offer(done.receipt());
            }
        }
        if (outcome instanceof Outcome.Waiting waiting && waiting.question() != null) {
            screen.next(
                    "For somebody else, to look at it and approve it:",
                    NextStep.of(
                            List.of("delete", "--approve", waiting.question().value()), database.given()));
        }
        if (outcome instanceof Outcome.Done done) {
            done.warnings().forEach(screen::tell);
        } else if (outcome instanceof Outcome.InDoubt doubt) {
            screen.tell("vacancy history --receipt " + doubt.receipt() + " says whether it was done.");
        }
        return ExitCode.of(outcome);
    }
}
