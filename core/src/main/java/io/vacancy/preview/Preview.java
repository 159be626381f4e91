// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.preview.Preview.State;
import io.vacancy.question.Question;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Everything a request would do, computed exactly, with nothing changed. Plain immutable data: it holds no connection and
 * may be kept and answered later. Only {@link io.vacancy.Vacancy#preview} makes one; what is read from a document is no
 * preview, and cannot be executed.
 */
public final class Preview {

    private final Data data;

    private Preview(Data data) {
        this.data = data;
    }

    /** For Vacancy's own use. */
    public static Preview of(Data data) {
        return new Preview(data);
    }

    /** What was asked for. */
    public Request request() {
        return data.request();
    }

    /** The selected table. */
    public TableName table() {
        return data.table();
    }

    /** What would be done: of a deletion, what the rule book made of it. */
    public OperationKind operation() {
        return data.operation();
    }

    /** How it stands. */
    public State state() {
        return data.state();
    }

    /** Why a guard or a permission refuses the request; null but in state {@link State#REFUSED}. */
    public @Nullable String refusal() {
        return data.refusal();
    }

    /** Every effect and blocker. */
    public Impact impact() {
        return data.impact();
    }

    /** What to ask before it is executed; asks nothing unless the state is {@link State#READY}. */
    public Question question() {
        return data.question();
    }

    /**
     * Why somebody else than the one who asks has to approve it before it is carried out, in a few words; null where nobody
     * has to.
     */
    public @Nullable String approval() {
        return data.approval();
    }

    /** Roughly what it takes; null where that is short, or nothing alike was done before. */
    public @Nullable Estimate estimate() {
        return data.estimate();
    }

    /** The same with what it takes. */
    public Preview estimated(@Nullable Estimate estimate) {
        return new Preview(new Data(
                data.request(),
                data.table(),
                data.operation(),
                data.state(),
                data.refusal(),
                data.impact(),
                data.question(),
                data.approval(),
                estimate,
                data.title(),
                data.selected()));
    }

    /** What would be done, in a few words: "Erase boat Osprey (HV-204)". */
    public String title() {
        return data.title();
    }

    /** By what the rows were selected, such as {@code where left_on < …}; may be empty. */
    public String selected() {
        return data.selected();
    }

    /** How a preview stands. */
    public enum State {
        /** It could go ahead. */
        READY("ready"),
        /** Rows block it. */
        BLOCKED("blocked"),
        /** Nothing is selected. */
        NOTHING("nothing"),
        /** A guard or a permission refuses it, whatever the answer. */
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
        return impact().records();
    }

    /** What would happen: the selected rows first, then what comes with them. */
    public List<Effect> effects() {
        return impact().effects();
    }

    /** Rows that block it. */
    public List<Blocker> blockers() {
        return impact().blockers();
    }

    /** Keys that were asked for and are not there. */
    public RowSample missing() {
        return impact().missing();
    }

    /** Selected rows that are left out because they are blocked. */
    public RowSample skipped() {
        return impact().skipped();
    }

    /** Why they are left out. */
    public List<SkipReason> skippedBy() {
        return impact().skippedBy();
    }

    /** Distinct rows by action. */
    public Map<Action, Long> totals() {
        return impact().totals();
    }

    /** What the caller ought to know besides, such as triggers. */
    public List<String> warnings() {
        return impact().warnings();
    }

    /**
     * Tells whether something has changed by the time it is executed; see {@link Fingerprint}. 32 hexadecimal digits.
     * That of a preview which is not ready agrees with no other.
     */
    public String fingerprint() {
        return question().fingerprint();
    }

    /** All that it has, as Vacancy puts it together; what it is made of may grow in any version. */
    public record Data(
            Request request,
            TableName table,
            OperationKind operation,
            State state,
            @Nullable String refusal,
            Impact impact,
            Question question,
            @Nullable String approval,
            @Nullable Estimate estimate,
            String title,
            String selected) {}

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof Preview same && data.equals(same.data);
    }

    @Override
    public int hashCode() {
        return data.hashCode();
    }

    @Override
    public String toString() {
        return data.toString();
    }
}
