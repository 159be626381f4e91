package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Who asks, and what is answered; at a terminal whoever sits there is asked. */
final class AnswerOptions {

    @Mixin
    private final WhoOptions who = new WhoOptions();

    @Option(names = "--yes", description = "Say yes to a yes/no question without being asked.")
    private boolean yes;

    @Option(names = "--answer", paramLabel = "TEXT", description = "The answer to the question, whatever it asks for.")
    private @Nullable String answer;

    @Option(
            names = "--fingerprint",
            paramLabel = "F",
            description = "Carry out only what an earlier preview with this fingerprint showed.")
    private @Nullable String fingerprint;

    WhoOptions who() {
        return who;
    }

    /** Whether no answer was given beforehand. */
    boolean none() {
        return answer == null;
    }

    /** Whether an earlier preview is meant that showed something else. */
    boolean meanAnother(Preview preview) {
        return fingerprint != null && preview.state() == State.READY && !fingerprint.equals(preview.fingerprint());
    }

    /**
     * The answer to what a preview shows.
     *
     * @param expected whether the number of rows was said beforehand, which stands for a yes
     * @throws MisuseException if nobody can be asked
     */
    Answer given(Preview preview, boolean expected, Screen screen) {
        Question question = preview.question();
        return question.answer(preview.state() == State.READY ? reply(question, expected, screen) : null);
    }

    private @Nullable String reply(Question question, boolean expected, Screen screen) {
        if (answer != null || question.strength() == Strength.NONE) {
            return answer;
        }
        boolean waived = yes || expected;
        if (waived && question.strength() == Strength.YES_NO) {
            return question.awaited();
        }
        if (!screen.terminal()) {
            throw new MisuseException(
                    "Nobody can be asked: \"" + question.title() + "\" needs an answer, and there is no terminal.",
                    question.strength() == Strength.YES_NO
                            ? "Give --yes, --answer TEXT, or --expect N with the number of selected rows."
                            : "It wants " + wanted(question) + "; --yes and --expect are not enough for it. Give"
                                    + " --answer \"" + question.awaited() + "\".");
        }
        screen.tell(screen.ink().strong(question.title()));
        question.consequences().forEach(sentence -> screen.tell("  " + sentence));
        return screen.ask("Type " + wanted(question) + " to go ahead, anything else to leave it: ");
    }

    private static String wanted(Question question) {
        return switch (question.strength()) {
            case NONE -> "nothing";
            case YES_NO -> "yes";
            case COUNT -> "the number of rows that go, " + question.awaited() + ",";
            case LABEL -> "what it is called, " + question.awaited() + ",";
            case TABLE -> "the table's name, " + question.awaited() + ",";
        };
    }
}
