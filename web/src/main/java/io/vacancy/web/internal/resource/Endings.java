// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import com.fasterxml.jackson.databind.JsonNode;
import io.vacancy.Vacancy;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.web.internal.http.Exchange;
import io.vacancy.web.internal.http.Json;
import io.vacancy.web.internal.http.ProblemException;
import org.jspecify.annotations.Nullable;

/** How endings that are not done are told over HTTP. */
final class Endings {

    private Endings() {}

    /** What stands against a preview, or against the actor's carrying it out; null where nothing does. */
    static @Nullable ProblemException against(Vacancy vacancy, Preview preview) {
        return switch (preview.state()) {
            case READY ->
                vacancy.questions()
                        .refusal(preview)
                        .map(refusal -> new ProblemException(403, "refused", refusal + " Nothing was changed."))
                        .orElse(null);
            case NOTHING -> problem(new Outcome.Nothing(preview), null);
            case BLOCKED -> problem(new Outcome.Blocked(preview), null);
            case REFUSED -> problem(new Outcome.Refused(preview, String.valueOf(preview.refusal())), null);
        };
    }

    /**
     * The problem that an outcome is.
     *
     * @param exchange to tell where to look for what is in doubt; or null
     */
    static ProblemException problem(Outcome outcome, @Nullable Exchange exchange) {
        JsonNode told = Json.own(new JsonWriter().write(outcome));
        int status =
                switch (outcome.state()) {
                    case DONE -> 200;
                    case NOTHING -> 404;
                    case BLOCKED -> 409;
                    case DECLINED -> 422;
                    case REFUSED -> 403;
                    case CHANGED -> 412;
                    case BUSY -> 503;
                    case IN_DOUBT, WAITING -> 202;
                };
        ProblemException problem = new ProblemException(status, outcome.state().word(), outcome.message());
        for (String member : new String[] {"blockers", "skipped", "skipped-by", "missing", "differences"}) {
            JsonNode value =
                    told.has(member) ? told.get(member) : told.path("preview").path(member);
            problem.with(member, value.isEmpty() ? null : value);
        }
        if (outcome instanceof Outcome.Busy) {
            problem.header("Retry-After", "1");
        }
        if (outcome instanceof Outcome.InDoubt doubt && exchange != null) {
            problem.header(
                    "Location", exchange.address("receipts", doubt.receipt().value()));
        }
        return problem;
    }
}
