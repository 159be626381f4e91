package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.OutcomeScreen;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Answer;
import io.vacancy.text.json.JsonWriter;
import java.util.function.Function;

/** The way from a preview to what was done: shown, asked, carried out, told. */
record Asking(Screen screen, boolean json, AnswerOptions answers) {

    /**
     * Shows a preview and asks.
     *
     * @param expects whether the number of rows was given, which waives a yes
     * @param carryingOut carries it out with the answer
     */
    Outcome outcome(Vacancy vacancy, Preview preview, boolean expects, Function<Answer, Outcome> carryingOut) {
        if (!json && preview.state() != State.NOTHING) {
            new PreviewScreen(vacancy, screen.ink()).lines(preview).forEach(screen::print);
            screen.print("");
        }
        if (answers.meanAnother(preview)) {
            return Outcome.Changed.since(null, preview);
        }
        Answer given = answers.given(preview, expects, screen);
        return screen.working(() -> carryingOut.apply(given));
    }

    /** Says what was done. Returns the exit code. */
    int tell(Vacancy vacancy, Outcome outcome) {
        if (json) {
            screen.print(new JsonWriter().write(outcome));
        } else {
            new OutcomeScreen(vacancy, screen.ink()).lines(outcome).forEach(screen::print);
        }
        return ExitCode.of(outcome);
    }
}
