// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.OpenQuestions;
import io.vacancy.Vacancy;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.OpenQuestion.State;
import io.vacancy.question.QuestionId;
import io.vacancy.request.Request;
import io.vacancy.web.internal.http.Exchange;
import io.vacancy.web.internal.http.Json;
import io.vacancy.web.internal.http.ProblemException;
import java.io.IOException;
import org.jspecify.annotations.Nullable;

/** Questions: created, looked at, answered and withdrawn. */
public record QuestionResource(Vacancy vacancy, AskedDocument asked) {

    private static final String ANSWER = "answer";

    /** Asks. */
    public void create(Exchange exchange, ResourceCollection collection) throws IOException {
        Request request = asked.read(exchange.body(), collection);
        Preview preview = vacancy.preview(request);
        ProblemException against = Endings.against(vacancy, preview);
        if (against != null) {
            throw against;
        }
        OpenQuestion question = vacancy.questions().open(preview);
        exchange.set("Location", address(exchange, question));
        exchange.set("ETag", tag(question.fingerprint()));
        exchange.send(201, document(exchange, question, preview));
    }

    /** Shows a question and how it stands. */
    public void read(Exchange exchange, ResourceCollection collection, String id) throws IOException {
        OpenQuestion question = found(collection, id);
        exchange.set("ETag", tag(question.fingerprint()));
        Preview preview = question.state() == State.OPEN ? vacancy.preview(withoutId(question)) : null;
        exchange.send(200, document(exchange, question, preview));
    }

    /** Takes an answer, which is a text and nothing else. */
    public void answer(Exchange exchange, ResourceCollection collection, String id) throws IOException {
        String typed = typed(exchange.body());
        OpenQuestion question = found(collection, id);
        Outcome outcome = vacancy.questions().answer(question.id(), typed).orElse(null);
        if (outcome instanceof Outcome.Done done) {
            exchange.set(
                    "Content-Location",
                    exchange.address("receipts", done.receipt().id().value()));
            exchange.send(200, Json.own(new JsonWriter().write(outcome)));
        } else if (outcome == null) {
            throw over(exchange, found(collection, id));
        } else if (outcome instanceof Outcome.Changed) {
            throw askedAnew(exchange, question, Endings.problem(outcome, exchange));
        } else {
            ProblemException problem = Endings.problem(outcome, exchange);
            if (outcome instanceof Outcome.Declined) {
                problem.with("remaining-attempts", remaining(found(collection, id)));
            }
            throw problem;
        }
    }

    /** Says no. */
    public void withdraw(Exchange exchange, ResourceCollection collection, String id) {
        OpenQuestion question = found(collection, id);
        if (vacancy.questions().withdraw(question.id()).isEmpty() && question.state() != State.DECLINED) {
            throw over(exchange, found(collection, id));
        }
        exchange.send(204);
    }

    private static String typed(ObjectNode body) {
        JsonNode text = body.get("text");
        if (body.size() != 1 || text == null || !text.isTextual()) {
            throw AskedDocument.malformed("An answer has \"text\", which is a text, and nothing else.");
        }
        return text.textValue();
    }

    private static JsonNode remaining(OpenQuestion question) {
        return Json.own(String.valueOf(
                question.state() == State.OPEN ? OpenQuestions.WRONG_ANSWERS - question.wrongAnswers() : 0));
    }

    /** Somebody else's question, and one of another collection, is not there. */
    private OpenQuestion found(ResourceCollection collection, String id) {
        OpenQuestion question = QuestionId.fits(id)
                ? vacancy.questions().find(new QuestionId(id)).orElse(null)
                : null;
        if (question == null || ResourceCollection.of(question.request().operation()) != collection) {
            throw new ProblemException(404, "not-found", "There is no such question.");
        }
        asked.wantsOpen(question.request(), question.request().deletion() != null);
        return question;
    }

    /** A question that takes no answer any more. */
    private ProblemException over(Exchange exchange, OpenQuestion question) {
        return switch (question.state()) {
            case EXPIRED ->
                new ProblemException(410, "expired", "Nobody answered in time; nothing was changed. Ask anew.");
            case CHANGED ->
                askedAnew(
                        exchange,
                        question,
                        new ProblemException(
                                412, "changed", "It has changed since it was shown; nothing was changed. Look again."));
            case WAITING ->
                new ProblemException(
                        409,
                        "waiting",
                        "It was answered, and waits for the approval of somebody else. Nothing was changed.");
            case OPEN, DONE, DECLINED ->
                new ProblemException(422, "declined", "The question was declined; nothing was changed. Ask anew.");
        };
    }

    /** What changed is asked anew, as far as it can still be done. */
    private ProblemException askedAnew(Exchange exchange, OpenQuestion question, ProblemException changed) {
        Preview now = vacancy.preview(withoutId(question));
        if (Endings.against(vacancy, now) == null) {
            OpenQuestion next = vacancy.questions().open(now);
            changed.header("Location", address(exchange, next));
            changed.with("question", Json.own("\"" + address(exchange, next) + "\""));
        }
        return changed;
    }

    private static Request withoutId(OpenQuestion question) {
        return question.request().withoutId();
    }

    private static String address(Exchange exchange, OpenQuestion question) {
        return exchange.address(
                ResourceCollection.of(question.request().operation()).path(),
                question.id().value());
    }

    private static ObjectNode document(Exchange exchange, OpenQuestion question, @Nullable Preview preview) {
        boolean same = preview == null || preview.fingerprint().equals(question.fingerprint());
        ObjectNode document = Json.object();
        document.put("version", 1);
        document.put("id", question.id().value());
        document.put("state", same ? question.state().word() : State.CHANGED.word());
        document.put("asked", question.askedAt().toString());
        document.put("expires", question.expiresAt().toString());
        ObjectNode links = document.putObject("links");
        links.put("self", address(exchange, question));
        if (question.state() == State.OPEN) {
            links.put(ANSWER, address(exchange, question) + "/" + ANSWER);
        }
        if (question.receipt() != null) {
            links.put("receipt", exchange.address("receipts", question.receipt().value()));
        }
        if (preview != null) {
            document.set("preview", Json.own(new JsonWriter().write(preview)));
        }
        return document;
    }

    static String tag(String fingerprint) {
        return "\"" + fingerprint + "\"";
    }
}
