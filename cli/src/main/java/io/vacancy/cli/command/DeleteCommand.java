package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.OutcomeScreen;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Question;
import io.vacancy.request.Request;
import io.vacancy.text.json.JsonWriter;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "delete",
        description = "Shows what deleting rows would do, asks, carries it out and says what was done.")
final class DeleteCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Option(names = "--by", paramLabel = "WHO", description = "Who deletes; the user of this machine unless given.")
    private @Nullable String by;

    @Option(names = "--yes", description = "Say yes to a yes/no question without being asked.")
    private boolean yes;

    @Option(names = "--answer", paramLabel = "TEXT", description = "The answer to the question, whatever it asks for.")
    private @Nullable String answer;

    @Option(
            names = "--fingerprint",
            paramLabel = "F",
            description = "Carry out only what an earlier preview with this fingerprint showed.")
    private @Nullable String fingerprint;

    DeleteCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Request request = selection.request();
        Vacancy vacancy = database.open(by);
        Preview preview = vacancy.preview(request);
        Outcome outcome = outcome(vacancy, preview);
        if (output.json()) {
            screen.print(new JsonWriter().write(outcome));
        } else {
            new OutcomeScreen(vacancy, screen.ink()).lines(outcome).forEach(screen::print);
        }
        return ExitCode.of(outcome);
    }

    private Outcome outcome(Vacancy vacancy, Preview preview) {
        show(vacancy, preview);
        if (fingerprint != null && preview.state() == State.READY && !fingerprint.equals(preview.fingerprint())) {
            return Outcome.Changed.since(null, preview);
        }
        Question question = preview.question();
        boolean asks = preview.state() == State.READY;
        return vacancy.carryOut(preview, question.answer(asks ? reply(question) : null));
    }

    private void show(Vacancy vacancy, Preview preview) {
        if (!output.json() && preview.state() != State.NOTHING) {
            new PreviewScreen(vacancy, screen.ink()).lines(preview).forEach(screen::print);
            screen.print("");
        }
    }

    private @Nullable String reply(Question question) {
        if (answer != null) {
            return answer;
        }
        boolean waived = yes || selection.expects();
        if (waived && question.strength() == Question.Strength.YES_NO) {
            return question.awaited();
        }
        if (!screen.terminal()) {
            throw new MisuseException(
                    "Nobody can be asked: \"" + question.title() + "\" needs an answer, and there is no terminal.",
                    "Give --yes, --answer TEXT, or --expect N with the number of selected rows.");
        }
        screen.tell(question.title());
        question.consequences().forEach(sentence -> screen.tell("  " + sentence));
        return screen.ask("Type " + question.awaited() + " to go ahead, anything else to leave it: ");
    }
}
