// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.internal.audit.KeyText;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.time.Instant;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Which entries are meant; each part that is not null narrows them. Immutable.
 *
 * @param table touched by what was done
 * @param key of a row of that table, as {@link KeyText} writes it
 * @param receipt of this receipt, or about it
 * @param since no older than this
 * @param before older than this
 * @param after only what comes after this entry, newest first: those that are older
 */
public record HistoryQuery(
        @Nullable String table,
        @Nullable String key,
        @Nullable String by,
        @Nullable String receipt,
        @Nullable Kind kind,
        @Nullable Ending ending,
        @Nullable Instant since,
        @Nullable Instant before,
        @Nullable String after) {

    private static final HistoryQuery ALL = new HistoryQuery(null, null, null, null, null, null, null, null, null);

    /** Everything. */
    public static HistoryQuery all() {
        return ALL;
    }

    /** The parts of a query while one of them is being changed. */
    private static final class Parts {

        private @Nullable String table;
        private @Nullable String key;
        private @Nullable String by;
        private @Nullable String receipt;
        private @Nullable Kind kind;
        private @Nullable Ending ending;
        private @Nullable Instant since;
        private @Nullable Instant before;
        private @Nullable String after;
    }

    private HistoryQuery with(Consumer<Parts> change) {
        Parts parts = new Parts();
        parts.table = table;
        parts.key = key;
        parts.by = by;
        parts.receipt = receipt;
        parts.kind = kind;
        parts.ending = ending;
        parts.since = since;
        parts.before = before;
        parts.after = after;
        change.accept(parts);
        return new HistoryQuery(
                parts.table,
                parts.key,
                parts.by,
                parts.receipt,
                parts.kind,
                parts.ending,
                parts.since,
                parts.before,
                parts.after);
    }

    /** Only what touched this table, and the row with this key where one is given. */
    public HistoryQuery of(String name, @Nullable String row) {
        return with(parts -> {
            parts.table = name;
            parts.key = row;
        });
    }

    public HistoryQuery by(String who) {
        return with(parts -> parts.by = who);
    }

    public HistoryQuery receipt(String id) {
        return with(parts -> parts.receipt = id);
    }

    public HistoryQuery kind(Kind only) {
        return with(parts -> parts.kind = only);
    }

    public HistoryQuery ending(Ending only) {
        return with(parts -> parts.ending = only);
    }

    public HistoryQuery since(Instant time) {
        return with(parts -> parts.since = time);
    }

    public HistoryQuery before(Instant time) {
        return with(parts -> parts.before = time);
    }

    public HistoryQuery after(String entry) {
        return with(parts -> parts.after = entry);
    }
}
