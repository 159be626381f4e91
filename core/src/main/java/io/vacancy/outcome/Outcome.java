// SPDX-License-Identifier: Apache-2.0
package io.vacancy.outcome;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.NotDoneException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.preview.Preview;
import io.vacancy.question.QuestionId;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a request ended. Only {@link Done} has changed anything; of {@link InDoubt} nobody knows yet.
 */
public sealed interface Outcome {

    /** The ways in which a request ends. */
    enum State {
        DONE("done"),
        NOTHING("nothing"),
        BLOCKED("blocked"),
        DECLINED("declined"),
        REFUSED("refused"),
        WAITING("waiting"),
        CHANGED("changed"),
        BUSY("busy"),
        IN_DOUBT("in-doubt");

        private final String word;

        State(String word) {
            this.word = word;
        }

        /** The written form, such as {@code in-doubt}. */
        public String word() {
            return word;
        }
    }

    /** How it ended. */
    State state();

    /** What happened, in a sentence or two. */
    String message();

    /**
     * The receipt of what was done.
     *
     * @throws NotDoneException if nothing was
     */
    default Receipt receiptOrThrow() {
        throw new NotDoneException(message());
    }

    /**
     * It was carried out and committed, or on a caller's connection is part of the caller's transaction.
     *
     * @param warnings what failed after the commit, a sentence each; none of it changes what was done
     * @param repeated whether it had been done before, by a request of the same identity, and nothing was changed now
     */
    record Done(Receipt receipt, List<String> warnings, boolean repeated) implements Outcome {
        public Done {
            Arguments.notNull(receipt, "receipt");
            warnings = List.copyOf(warnings);
        }

        /** Without a warning, and for the first time. */
        public Done(Receipt receipt) {
            this(receipt, List.of(), false);
        }

        /** The same with more warnings. */
        public Done warning(List<String> further) {
            List<String> all = new ArrayList<>(warnings);
            all.addAll(further);
            return new Done(receipt, all, repeated);
        }

        @Override
        public State state() {
            return State.DONE;
        }

        @Override
        public String message() {
            String done = OutcomeMessages.done(receipt);
            return (repeated ? "It was done before: " + done : done)
                    + (warnings.isEmpty() ? "" : " " + String.join(" ", warnings));
        }

        @Override
        public Receipt receiptOrThrow() {
            return receipt;
        }
    }

    /** Nothing was selected. */
    record Nothing(Preview preview) implements Outcome {
        @Override
        public State state() {
            return State.NOTHING;
        }

        @Override
        public String message() {
            return OutcomeMessages.nothing(preview);
        }
    }

    /** Rows block it; the preview lists them. */
    record Blocked(Preview preview) implements Outcome {
        @Override
        public State state() {
            return State.BLOCKED;
        }

        @Override
        public String message() {
            return OutcomeMessages.blocked(preview);
        }
    }

    /** What was typed is not what the question asks for. */
    record Declined(Preview preview) implements Outcome {
        @Override
        public State state() {
            return State.DECLINED;
        }

        @Override
        public String message() {
            return "Declined; nothing was changed.";
        }
    }

    /**
     * A guard or a permission refused it, or it needs an answer that nobody gave.
     *
     * @param reason what the guard says
     */
    record Refused(Preview preview, String reason) implements Outcome {
        @Override
        public State state() {
            return State.REFUSED;
        }

        @Override
        public String message() {
            return reason + " Nothing was changed.";
        }
    }

    /**
     * It was agreed to, and somebody else has to approve it first.
     *
     * @param reason why, in a few words
     * @param question the question that waits for it; null where nobody has opened one, see
     *     {@link io.vacancy.OpenQuestions}
     */
    record Waiting(Preview preview, String reason, @Nullable QuestionId question) implements Outcome {
        @Override
        public State state() {
            return State.WAITING;
        }

        @Override
        public String message() {
            return "Somebody else has to approve it first (" + reason + "). Nothing was changed."
                    + (question == null ? "" : " It waits for that as " + question.value() + ".");
        }
    }

    /**
     * What would be carried out is no longer what was shown. A new preview shows what it would be now.
     *
     * @param differences what differs, a sentence each
     */
    record Changed(List<String> differences) implements Outcome {
        public Changed {
            differences = List.copyOf(differences);
        }

        /**
         * Compares with what was shown.
         *
         * @param before null where only its fingerprint is known
         */
        public static Changed since(@Nullable Preview before, Preview now) {
            return new Changed(Differences.between(before, now));
        }

        @Override
        public State state() {
            return State.CHANGED;
        }

        @Override
        public String message() {
            return "It has changed since it was shown: " + String.join(" ", differences())
                    + " Nothing was changed; look again and answer anew.";
        }
    }

    /**
     * Somebody else holds rows that it needs.
     *
     * @param table where it had to wait, or null if the database does not tell
     */
    record Busy(@Nullable String table, String detail) implements Outcome {
        @Override
        public State state() {
            return State.BUSY;
        }

        @Override
        public String message() {
            return (table == null ? "The database" : "Table " + table) + " is held by somebody else: " + detail
                    + " Nothing was changed; try again, or wait longer.";
        }
    }

    /**
     * The connection was lost while the commit was on its way, so whether it was done is not known.
     *
     * @param receipt what it was to be done under; where Vacancy's own tables are set up, it is found by it once it is
     *     known to be done, and never if it was not
     * @param detail what is known, in a sentence or two
     */
    record InDoubt(ReceiptId receipt, String detail) implements Outcome {
        @Override
        public State state() {
            return State.IN_DOUBT;
        }

        @Override
        public String message() {
            return "Whether it was done is not known: the connection was lost while the commit was on its way. "
                    + detail;
        }
    }
}
