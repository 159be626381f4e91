package io.vacancy.outcome;

import io.vacancy.failure.NotDoneException;
import io.vacancy.preview.Preview;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How a request ended. Only {@link Done} has changed anything. */
public sealed interface Outcome {

    /** The written form of how it ended, such as {@code blocked}. */
    String state();

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

    /** It was carried out and committed, or on a caller's connection is part of the caller's transaction. */
    record Done(Receipt receipt) implements Outcome {
        @Override
        public String state() {
            return "done";
        }

        @Override
        public String message() {
            return Sentences.done(receipt);
        }

        @Override
        public Receipt receiptOrThrow() {
            return receipt;
        }
    }

    /** Nothing was selected. */
    record Nothing(Preview preview) implements Outcome {
        @Override
        public String state() {
            return "nothing";
        }

        @Override
        public String message() {
            return Sentences.nothing(preview);
        }
    }

    /** Rows stand in the way; the preview lists them. */
    record Blocked(Preview preview) implements Outcome {
        @Override
        public String state() {
            return "blocked";
        }

        @Override
        public String message() {
            return Sentences.blocked(preview);
        }
    }

    /** The person who was asked did not agree. */
    record Declined(Preview preview) implements Outcome {
        @Override
        public String state() {
            return "declined";
        }

        @Override
        public String message() {
            return "Declined; nothing was changed.";
        }
    }

    /**
     * A guard refused it.
     *
     * @param reason what the guard says
     */
    record Refused(Preview preview, String reason) implements Outcome {
        @Override
        public String state() {
            return "refused";
        }

        @Override
        public String message() {
            return reason + " Nothing was changed.";
        }
    }

    /**
     * What would be carried out is no longer what was shown.
     *
     * @param now what a new preview shows
     * @param differences what differs, a sentence each
     */
    record Changed(Preview now, List<String> differences) implements Outcome {
        public Changed {
            differences = List.copyOf(differences);
        }

        /**
         * Compares with what was shown.
         *
         * @param before null where only its fingerprint is known
         */
        public static Changed since(@Nullable Preview before, Preview now) {
            return new Changed(now, Differences.between(before, now));
        }

        @Override
        public String state() {
            return "changed";
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
        public String state() {
            return "busy";
        }

        @Override
        public String message() {
            return (table == null ? "The database" : "Table " + table) + " is held by somebody else: " + detail
                    + " Nothing was changed; try again, or wait longer.";
        }
    }
}
