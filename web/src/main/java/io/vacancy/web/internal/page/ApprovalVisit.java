// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import io.vacancy.OpenQuestions;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.question.QuestionId;
import io.vacancy.web.Exposed;
import io.vacancy.web.internal.http.ProblemException;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What others have asked for, in front of one who may approve it: a list, a page of each, and the answer.
 *
 * @param path behind the address under which the pages are mounted, from {@code waiting} on
 */
record ApprovalVisit(Visit visit, List<String> path) {

    static final String AT = "waiting";

    void handle(boolean post) throws IOException {
        if (path.size() == 1 && !post) {
            visit.send(
                    200,
                    visit.models()
                            .waiting(
                                    questions().waiting().stream()
                                            .filter(this::opens)
                                            .toList(),
                                    address()));
        } else if (path.size() == 2 && post) {
            decide(found(path.get(1)));
        } else if (path.size() == 2) {
            show(found(path.get(1)));
        } else if (path.size() == 3 && path.get(2).equals("rows") && !post) {
            OpenQuestion question = found(path.get(1));
            visit.rows(question, address(question));
        } else {
            throw notFound();
        }
    }

    private void show(OpenQuestion question) throws IOException {
        Preview preview = visit.vacancy().preview(question.request().withoutId());
        if (preview.fingerprint().equals(question.fingerprint())) {
            boolean wrong = visit.field("wrong") != null && question.wrongAnswers() > 0;
            visit.send(200, visit.models().approve(question, address(question), preview, wrong));
        } else {
            visit.send(200, visit.models().changed(null));
        }
    }

    private void decide(OpenQuestion question) throws IOException {
        visit.wantsToken();
        String text = visit.field("text");
        boolean yes = "yes".equals(visit.field("choice"));
        Outcome outcome = (yes
                        ? questions().approve(question.id(), text == null ? "yes" : text)
                        : questions().decline(question.id()))
                .orElse(null);
        if (outcome instanceof Outcome.Done done) {
            visit.send(200, visit.models().done(done.receipt(), false));
        } else if (outcome instanceof Outcome.Declined && yes) {
            visit.seeOther(address(question) + "?wrong");
        } else if (outcome == null || outcome instanceof Outcome.Declined) {
            visit.seeOther(address());
        } else {
            visit.send(200, visit.models().stopped(outcome, blocked(outcome), Map.of()));
        }
    }

    private static @Nullable Preview blocked(Outcome outcome) {
        return outcome instanceof Outcome.Blocked blocked ? blocked.preview() : null;
    }

    private OpenQuestions questions() {
        return visit.vacancy().questions();
    }

    private OpenQuestion found(String id) {
        return Optional.of(id)
                .filter(QuestionId::fits)
                .flatMap(written -> questions().findWaiting(new QuestionId(written)))
                .filter(this::opens)
                .orElseThrow(this::notFound);
    }

    private boolean opens(OpenQuestion question) {
        Preview preview = visit.vacancy().preview(question.request().withoutId());
        return visit.exposure().opens(preview.table(), Exposed.APPROVE);
    }

    private ProblemException notFound() {
        return new ProblemException(404, "not-found", visit.models().frame().say("wrong.not-found.message"));
    }

    private String address() {
        return visit.base() + "/" + AT;
    }

    private String address(OpenQuestion question) {
        return address() + "/" + question.id().value();
    }
}
