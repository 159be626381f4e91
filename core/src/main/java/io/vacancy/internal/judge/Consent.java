// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.judge;

import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Request;
import io.vacancy.trail.Confirmation.How;
import org.jspecify.annotations.Nullable;

/**
 * By what somebody agreed to a request: an answer to what was shown, or what the request itself says. It is judged on the
 * question as it is under the locks, and on nothing that somebody brings along.
 *
 * @param answer what was answered; null where nobody was asked
 * @param fingerprint of what was shown; null where nothing was
 * @param approvedBy who else has agreed, or null
 * @param seen what was shown, where it is at hand, to tell what has changed since
 */
public record Consent(
        @Nullable Answer answer,
        @Nullable String fingerprint,
        @Nullable String approvedBy,
        @Nullable Preview seen) {

    /** Nobody was shown anything. */
    public static final Consent OF_THE_REQUEST = new Consent(null, null, null, null);

    public static Consent answered(Answer answer, @Nullable Preview seen) {
        return new Consent(answer, answer.fingerprint(), null, seen);
    }

    /** Somebody else has given the answer to what the one who asks had agreed to before. */
    public static Consent approved(Answer answer, String by) {
        return new Consent(answer, answer.fingerprint(), by, null);
    }

    /** It was shown, and nobody was asked. */
    public static Consent shown(Preview seen) {
        return new Consent(null, seen.fingerprint(), null, seen);
    }

    /** Whether what is found is compared with what was shown. */
    public boolean compares() {
        return fingerprint != null;
    }

    /** The outcome that stands against what is found now, or null to go ahead. */
    @Nullable
    public Outcome objection(Preview now) {
        Outcome standing = standing(now);
        if (standing != null) {
            return standing.state() == Outcome.State.NOTHING && seen != null && seen.state() == State.READY
                    ? Outcome.Changed.since(seen, now)
                    : standing;
        }
        if (fingerprint != null && !fingerprint.equals(now.fingerprint())) {
            return Outcome.Changed.since(seen, now);
        }
        if (answer != null && !now.question().accepts(answer.text())) {
            return new Outcome.Declined(now);
        }
        if (answer == null && !waived(now.request(), now.question())) {
            return new Outcome.Refused(now, needed(now.question()));
        }
        String approval = now.approval();
        return approval == null || approvedBy != null ? null : new Outcome.Waiting(now, approval, null);
    }

    /** The outcome in which a preview already stands, or null if it could go ahead. */
    public static @Nullable Outcome standing(Preview preview) {
        return switch (preview.state()) {
            case READY -> null;
            case NOTHING -> new Outcome.Nothing(preview);
            case BLOCKED -> new Outcome.Blocked(preview);
            case REFUSED -> new Outcome.Refused(preview, String.valueOf(preview.refusal()));
        };
    }

    private static boolean waived(Request request, Question question) {
        return request.withoutConfirmation() != null
                || question.asksNothing()
                || (question.strength() == Strength.YES_NO
                        && (request.acceptedUnasked() || request.limits().expect() != null));
    }

    private static String needed(Question question) {
        String typed =
                switch (question.strength()) {
                    case NONE, YES_NO -> "an answer";
                    case COUNT -> "the number of rows to be typed";
                    case LABEL -> "the label of the row to be typed";
                    case TABLE -> "the name of the table to be typed";
                };
        return "\"" + question.title() + "\" requires " + typed
                + "; an expected count stands for a yes to a yes/no question only.";
    }

    /** What the trail is told of how it was agreed, for a request and the question as it was. */
    public How how(Request request, Question question) {
        if (answer != null) {
            return question.asksNothing() ? How.NOT_REQUIRED : How.QUESTION;
        }
        if (request.withoutConfirmation() != null) {
            return How.WITHOUT_CONFIRMATION;
        }
        if (question.asksNothing()) {
            return How.NOT_REQUIRED;
        }
        return request.limits().expect() != null ? How.EXPECTED : How.ACCEPTED_UNASKED;
    }
}
