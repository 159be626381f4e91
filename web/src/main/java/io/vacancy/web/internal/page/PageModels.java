// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import io.vacancy.OpenQuestions;
import io.vacancy.Vacancy;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.Question;
import io.vacancy.request.NamedDeletion;
import io.vacancy.schema.Row;
import io.vacancy.web.page.Page;
import io.vacancy.web.page.Page.Frame;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Makes what pages show of previews, questions and receipts. */
public record PageModels(Vacancy vacancy, Frame frame) {

    /**
     * Asks.
     *
     * @param wrong whether the last text was not enough
     * @param anew whether it is asked anew since something changed
     * @param diagram whether there is a diagram of it
     */
    public Page confirm(
            OpenQuestion question, String address, Preview preview, boolean wrong, boolean anew, boolean diagram) {
        return new Page.Confirm(
                frame,
                frame.say("confirm.title"),
                question,
                address,
                preview,
                shown().rows(preview.records()),
                shown().effects(preview.effects(), "effect"),
                typed(preview.question()),
                wrong ? OpenQuestions.WRONG_ANSWERS - question.wrongAnswers() : -1,
                anew,
                null,
                diagram ? address + "/diagram.svg" : null);
    }

    /** Asks one who may approve what somebody else has asked for. */
    public Page approve(OpenQuestion question, String address, Preview preview, boolean wrong) {
        String reason = question.request().reason();
        return new Page.Confirm(
                frame,
                frame.say("approve.title"),
                question,
                address,
                preview,
                shown().rows(preview.records()),
                shown().effects(preview.effects(), "effect"),
                typed(preview.question()),
                wrong ? OpenQuestions.WRONG_ANSWERS - question.wrongAnswers() : -1,
                false,
                frame.say(
                        reason == null ? "approve.asked" : "approve.asked.because",
                        question.by(),
                        frame.time(question.askedAt()),
                        reason == null ? "" : reason),
                null);
    }

    /** What waits for an approval. */
    public Page waiting(List<OpenQuestion> waiting, String address) {
        return new Page.Waiting(
                frame,
                frame.say("waiting.title"),
                waiting.stream()
                        .map(question -> new Page.ShownWaiting(
                                question.question().title(),
                                frame.say("approve.asked", question.by(), frame.time(question.askedAt())),
                                question.request().reason(),
                                address + "/" + question.id().value()))
                        .toList());
    }

    private @Nullable String typed(Question question) {
        return switch (question.strength()) {
            case NONE, YES_NO -> null;
            case COUNT, LABEL, TABLE ->
                frame.say("confirm.type." + question.strength().word(), Objects.requireNonNull(question.awaited()));
        };
    }

    /**
     * What stands against it.
     *
     * @param again fields by which it is asked for once more without what blocks it; none where that is of no use
     */
    public Page.Stopped stopped(Preview preview, Map<String, List<String>> again) {
        Outcome outcome =
                switch (preview.state()) {
                    case NOTHING -> new Outcome.Nothing(preview);
                    case BLOCKED -> new Outcome.Blocked(preview);
                    case REFUSED, READY -> new Outcome.Refused(preview, String.valueOf(preview.refusal()));
                };
        return stopped(outcome, preview, again);
    }

    /** The same of an outcome. */
    public Page.Stopped stopped(Outcome outcome, @Nullable Preview preview, Map<String, List<String>> again) {
        return new Page.Stopped(
                frame,
                frame.say("stopped." + outcome.state().word()),
                status(outcome),
                outcome.message(),
                preview == null ? List.of() : shown().rows(preview.records()),
                preview == null ? List.of() : shown().blockers(preview.blockers()),
                again);
    }

    private static int status(Outcome outcome) {
        return switch (outcome.state()) {
            case DONE -> 200;
            case NOTHING -> 404;
            case BLOCKED, CHANGED -> 409;
            case DECLINED -> 422;
            case REFUSED -> 403;
            case BUSY -> 503;
            case IN_DOUBT, WAITING -> 202;
        };
    }

    /** The rows that a question is about, or the first of them. */
    public Page rows(String address, List<Row> rows, long all) {
        String title = frame.say("rows.title", rows.size(), CountText.grouped(all));
        return new Page.Rows(frame, title, address, shown().rows(rows), all);
    }

    /** What was done. */
    public Page done(Receipt receipt, boolean restorable) {
        return new Page.Done(
                frame,
                frame.say("done.title." + receipt.operation().word()),
                receipt,
                shown().effects(receipt.effects(), "did"),
                restorable);
    }

    /** A question that takes no answer any more. */
    public Page over(OpenQuestion question) {
        String state = question.state().word();
        return new Page.Over(frame, frame.say("over." + state), frame.say("over." + state + ".message"), null);
    }

    /** Something has changed since it was shown, and is to be looked at again. */
    public Page changed(@Nullable String address) {
        return new Page.Over(frame, frame.say("stopped.changed"), frame.say("confirm.changed"), address);
    }

    /** Something that is wrong with what was sent. */
    public Page wrong(String title, String message) {
        return new Page.Over(frame, frame.say(title), message, null);
    }

    /** Asks for the values of a deletion of the rule book. */
    public Page named(NamedDeletion deletion) {
        Map<String, String> inputs = new LinkedHashMap<>();
        deletion.parameters()
                .forEach((name, kind) -> inputs.put(
                        name,
                        switch (kind) {
                            case DATE -> "date";
                            case TIME -> "time";
                            case TIMESTAMP -> "datetime-local";
                            case INTEGER -> "number";
                            default -> "text";
                        }));
        return new Page.Named(frame, frame.say("named.title", deletion.name()), deletion, inputs);
    }

    private Shown shown() {
        return new Shown(vacancy.rules(), frame);
    }
}
