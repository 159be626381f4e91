// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Request;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Who asks, and what is answered; at a terminal whoever sits there is asked. */
final class AnswerOptions {

    @Mixin
    private final ActorOptions who = new ActorOptions();

    @Option(names = "--yes", description = "Say yes to a yes/no question without being asked.")
    private boolean yes;

    @Option(names = "--answer", paramLabel = "TEXT", description = "The answer to the question, whatever it asks for.")
    private @Nullable String answer;

    @Option(
            names = "--fingerprint",
            paramLabel = "F",
            description = "Carry out only what an earlier preview with this fingerprint showed.")
    private @Nullable String fingerprint;

    ActorOptions who() {
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

    /** The request with what is said of questions beforehand. */
    Request in(Request request) {
        return yes ? request.acceptUnasked() : request;
    }

    /**
     * The answer to what a preview shows; null where the request itself waives the question.
     *
     * @param database which one is about to be changed
     * @throws MisuseException if an answer is needed, and nobody can be asked
     */
    @Nullable
    Answer given(Preview preview, Screen screen, String database) {
        Question question = preview.question();
        if (preview.state() != State.READY || answer != null || question.asksNothing()) {
            return question.answer(answer);
        }
        Request request = preview.request();
        boolean waived = request.acceptedUnasked() || request.limits().expect() != null;
        if (waived && question.strength() == Strength.YES_NO) {
            return null;
        }
        if (!screen.terminal()) {
            throw new MisuseException(
                    "Confirmation is needed for \"" + question.title() + "\", and there is no terminal.",
                    question.strength() == Strength.YES_NO
                            ? "Give --yes, --answer TEXT, or --expect N with the number of selected rows."
                            : "It requires " + wanted(question) + " so --yes and --expect are not enough. Give"
                                    + " --answer \"" + question.awaited() + "\".");
        }
        screen.tell(screen.style().strong(question.title()));
        question.consequences().forEach(sentence -> screen.tell("  " + sentence));
        screen.tell("  Database: " + database);
        String typed = screen.ask("Type " + wanted(question) + " to go ahead, or press Enter to leave it: ");
        if (typed != null && !typed.isBlank() && !question.accepts(typed)) {
            screen.tell("\"" + typed + "\" was typed, and " + question.awaited() + " was asked for.");
        }
        return question.answer(typed);
    }

    /**
     * Whether somebody agrees to something that is no request; a yes given beforehand will do.
     *
     * @throws MisuseException if nobody can be asked
     */
    boolean agreed(String title, String consequence, Screen screen) {
        if (yes || answer != null) {
            return yes || "yes".equals(answer);
        }
        if (!screen.terminal()) {
            throw new MisuseException(
                    "Confirmation is needed for \"" + title + "\", and there is no terminal.", "Give --yes.");
        }
        screen.tell(screen.style().strong(title));
        screen.tell("  " + consequence);
        String typed = screen.ask("Type yes to go ahead, or press Enter to leave it: ");
        return typed != null && typed.strip().equalsIgnoreCase("yes");
    }

    private static String wanted(Question question) {
        return switch (question.strength()) {
            case NONE -> "nothing";
            case YES_NO -> "yes";
            case COUNT -> "the number of rows that go, " + question.awaited() + ",";
            case LABEL -> "what it is called, " + question.awaited() + ",";
            case TABLE -> "the name, " + question.awaited() + ",";
        };
    }
}
