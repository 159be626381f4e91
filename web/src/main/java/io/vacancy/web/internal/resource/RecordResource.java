// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.Vacancy;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.Request;
import io.vacancy.web.internal.http.Exchange;
import io.vacancy.web.internal.http.Json;
import io.vacancy.web.internal.http.ProblemException;
import java.io.IOException;

/** Records at addresses of their own, for clients that have confirmed by themselves. */
public record RecordResource(Vacancy vacancy, AskedDocument asked) {

    /** The header field that has what was typed. */
    private static final String TYPED = "Vacancy-Typed";

    /** Deletes a record as it was shown; without saying how it was shown, it is shown. */
    public void delete(Exchange exchange, String table, String key) throws IOException {
        ObjectNode document = Json.object();
        document.put("table", table);
        document.putArray("keys").add(key);
        Request request = asked.read(document, ResourceCollection.DELETIONS);
        String shown = exchange.header("If-Match");
        if (shown == null || !shown.matches("\"[^\"]+\"")) {
            throw required(exchange, vacancy.preview(request));
        }
        String typed = exchange.header(TYPED);
        Outcome outcome =
                vacancy.execute(request, Answer.of(shown.substring(1, shown.length() - 1), typed == null ? "" : typed));
        if (outcome instanceof Outcome.Done done) {
            exchange.set(
                    "Content-Location",
                    exchange.address("receipts", done.receipt().id().value()));
            exchange.send(204);
            return;
        }
        ProblemException problem = Endings.problem(outcome, exchange);
        throw outcome instanceof Outcome.Changed ? shown(exchange, vacancy.preview(request), problem) : problem;
    }

    private ProblemException required(Exchange exchange, Preview preview) {
        ProblemException against = Endings.against(vacancy, preview);
        return against != null
                ? against
                : shown(
                        exchange,
                        preview,
                        new ProblemException(
                                428,
                                "confirmation-required",
                                "Give the ETag of what was shown as If-Match, and what was typed as " + TYPED + "."));
    }

    private static ProblemException shown(Exchange exchange, Preview preview, ProblemException problem) {
        if (preview.state() == Preview.State.READY) {
            exchange.set("ETag", QuestionResource.tag(preview.fingerprint()));
        }
        return problem.with("preview", Json.own(new JsonWriter().write(preview)));
    }
}
