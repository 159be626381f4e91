package io.vacancy.preview;

import io.vacancy.question.Question;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Everything a request would do, computed exactly, with nothing changed. Plain immutable data: it holds
 * no connection and may be kept, sent elsewhere and answered later.
 *
 * @param mode the mode that holds, the request's own or the table's usual one
 * @param refusal why a guard refuses the request, or null; not null exactly in state REFUSED
 * @param question what to ask before carrying it out; asks nothing unless the state is READY
 */
public record Preview(
        Request request,
        TableName table,
        Mode mode,
        State state,
        @Nullable String refusal,
        Findings findings,
        Question question) {

    /** How a preview stands. */
    public enum State {
        /** It could go ahead. */
        READY("ready"),
        /** Rows stand in the way. */
        BLOCKED("blocked"),
        /** Nothing is selected. */
        NOTHING("nothing"),
        /** A guard refuses it, whatever the answer. */
        REFUSED("refused");

        private final String word;

        State(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    /** The selected rows as they stand, where they are few; else empty. */
    public List<Row> records() {
        return findings.records();
    }

    /** What would happen: the selected rows first, then what comes with them. */
    public List<Effect> effects() {
        return findings.effects();
    }

    public List<Blocker> blockers() {
        return findings.blockers();
    }

    /** Keys that were asked for and are not there. */
    public Portion missing() {
        return findings.missing();
    }

    /** Selected rows that are left out because their going is blocked. */
    public Portion spared() {
        return findings.spared();
    }

    /** Why they are left out. */
    public List<Sparing> sparedBy() {
        return findings.sparedBy();
    }

    /** Distinct rows by action. */
    public Map<Action, Long> totals() {
        return findings.totals();
    }

    public List<String> warnings() {
        return findings.warnings();
    }

    /** See {@link Fingerprint}; 32 hexadecimal digits. */
    public String fingerprint() {
        return findings.fingerprint();
    }
}
