// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.page;

import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Estimate;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.request.NamedDeletion;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A page with all that it shows; what a template needs and nothing more. */
public sealed interface Page {

    /** The title, in the language of the page. */
    String title();

    /** What every page has. */
    Frame frame();

    /**
     * What every page has.
     *
     * @param base the address under which the pages are mounted
     * @param token to be sent with every form
     * @param back where a person came from, an address of the same application
     */
    record Frame(PageTexts texts, String base, String token, String back) {

        /** A text of the page's language. */
        public String say(String key, Object... values) {
            return texts.say(key, values);
        }

        /** A time to the second, in UTC, as every language reads it. */
        public String time(Instant at) {
            return at.truncatedTo(ChronoUnit.SECONDS)
                    .toString()
                    .replace('T', ' ')
                    .replace("Z", " UTC");
        }
    }

    /** What the columns of a row hold, by name, as texts; and what the row is called. */
    record ShownRow(String label, Map<String, String> values) {}

    /** An effect, and how many relations lie between it and the selected rows. */
    record ShownEffect(Effect effect, int depth, String text, List<ShownRow> sample) {}

    /** Rows that block it, and a few of them. */
    record ShownBlocker(Blocker blocker, String text, List<ShownRow> sample) {}

    /** Asks. */
    record Confirm(
            Frame frame,
            String title,
            OpenQuestion question,
            String address,
            Preview preview,
            List<ShownRow> records,
            List<ShownEffect> effects,
            @Nullable String typed,
            int remaining,
            boolean anew,
            @Nullable String askedBy,
            @Nullable String diagram)
            implements Page {

        /** Roughly what it takes; null where that is short or not known. */
        public @Nullable String estimate() {
            Estimate estimate = preview.estimate();
            return estimate == null
                    ? null
                    : frame.say(
                            "confirm.estimate",
                            CountText.grouped(Math.max(1, estimate.time().toSeconds())),
                            CountText.grouped(estimate.rowsLocked()));
        }

        /** The text that says whether it can be taken back; null where there is nothing to say. */
        public @Nullable String afterwards() {
            boolean archived = preview.impact().archived();
            boolean marksOnly = preview.totals().keySet().equals(Set.of(Action.SOFT_DELETE));
            return switch (preview.operation()) {
                case RESTORE, REPLACE -> null;
                case PURGE -> "confirm.lost";
                case BLANK, FORGET -> archived ? "confirm.archived.blank" : "confirm.lost";
                case ERASE, SOFT_DELETE, TRUNCATE, DROP, MERGE, UNLINK_ORPHANS ->
                    archived ? "confirm.archived" : marksOnly ? "confirm.marked" : "confirm.lost";
            };
        }
    }

    /** One thing that waits for an approval: what is asked, by whom, why, and where it is shown. */
    record ShownWaiting(
            String question, String asked, @Nullable String because, String address) {}

    /** What waits for an approval. */
    record Waiting(Frame frame, String title, List<ShownWaiting> waiting) implements Page {
        public Waiting {
            waiting = List.copyOf(waiting);
        }
    }

    /** What stands against it, and what can be done about that. */
    record Stopped(
            Frame frame,
            String title,
            int status,
            String message,
            List<ShownRow> records,
            List<ShownBlocker> blockers,
            Map<String, List<String>> again)
            implements Page {}

    /** The rows that a question is about, as far as they are shown. */
    record Rows(Frame frame, String title, String address, List<ShownRow> rows, long all) implements Page {}

    /** What was done. */
    record Done(Frame frame, String title, Receipt receipt, List<ShownEffect> effects, boolean restorable)
            implements Page {}

    /**
     * A question that takes no answer any more.
     *
     * @param again the address of a question that can be asked anew; null where there is nothing to ask
     */
    record Over(
            Frame frame,
            String title,
            String message,
            @Nullable String again) implements Page {}

    /** The values that a deletion of the rule book is given. */
    record Named(Frame frame, String title, NamedDeletion deletion, Map<String, String> inputs) implements Page {}
}
