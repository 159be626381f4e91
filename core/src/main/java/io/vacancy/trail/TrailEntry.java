// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ReceiptId;
import io.vacancy.request.OperationKind;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One thing that somebody did, or that was refused. Plain immutable data, made by Vacancy, without any value of a
 * personal column.
 */
public final class TrailEntry {

    private final Data data;

    private TrailEntry(Data data) {
        this.data = data;
    }

    /** For Vacancy's own use. */
    public static TrailEntry of(Data data) {
        return new TrailEntry(data);
    }

    /** A UUID of version 7 (RFC 9562). */
    public String id() {
        return data.id();
    }

    /** When, by the clock of the machine that did it. */
    public Instant at() {
        return data.at();
    }

    /** What kind of thing it was. */
    public Kind kind() {
        return data.kind();
    }

    /** How it ended. */
    public Ending ending() {
        return data.ending();
    }

    /** Who did it. */
    public String by() {
        return data.by();
    }

    /** For whom, or null where nobody else was named. */
    public @Nullable String onBehalfOf() {
        return data.onBehalfOf();
    }

    /** From where, as the application says: any names and values. */
    public Map<String, String> origin() {
        return data.origin();
    }

    /** Why, or null where nobody said. */
    public @Nullable String because() {
        return data.because();
    }

    /** How it was agreed to; null for a hold, and for what did not get so far. */
    public @Nullable Confirmation confirmation() {
        return data.confirmation();
    }

    /** The selected table, or that of a hold; null for a hold on a receipt. */
    public @Nullable String table() {
        return data.table();
    }

    /** By what its rows were selected, in words. */
    public String selected() {
        return data.selected();
    }

    /** The name of the rule book's deletion that was run, or null. */
    public @Nullable String deletion() {
        return data.deletion();
    }

    /** What was done to which rows; of what was not done, the rows that were selected where they are known. */
    public List<AffectedRows> affected() {
        return data.affected();
    }

    /** The receipts whose archived rows were restored, purged or held. */
    public List<ReceiptId> receipts() {
        return data.receipts();
    }

    /** The receipt of what was done, or null. */
    public @Nullable ReceiptId receipt() {
        return data.receipt();
    }

    /** Which part of the receipt, from 1; 0 where there is none. */
    public int part() {
        return data.part();
    }

    /** Why it was not done, or null. */
    public @Nullable String reason() {
        return data.reason();
    }

    /** Under which scope it was done. */
    public ScopeMarks scopes() {
        return data.scopes();
    }

    /** Of the receipt and the archived rows that belong to it; null where nothing was kept, or by an earlier version. */
    public @Nullable ArchiveDigests digests() {
        return data.digests();
    }

    /** The same with digests of what is archived with it. */
    public TrailEntry with(ArchiveDigests digests) {
        return new TrailEntry(data.with(digests));
    }

    /** The same for somebody who may not see all of it: without texts that might tell of the rest. */
    public TrailEntry cut(List<AffectedRows> shown) {
        // Where rows of several tables were selected, what they were selected by may be of one that is not shown.
        boolean several = data.affected().stream()
                        .filter(rows -> rows.relation() == null)
                        .map(AffectedRows::table)
                        .distinct()
                        .count()
                > 1;
        return new TrailEntry(new Data(
                data.id(),
                data.at(),
                data.kind(),
                data.ending(),
                data.by(),
                data.onBehalfOf(),
                data.origin(),
                null,
                null,
                data.table(),
                several ? "" : data.selected(),
                data.deletion(),
                shown,
                data.receipts(),
                data.receipt(),
                data.part(),
                null,
                data.scopes(),
                null));
    }

    /** What kind of thing it was. */
    public enum Kind {
        ERASE("erase"),
        SOFT_DELETE("soft-delete"),
        RESTORE("restore"),
        REPLACE("replace"),
        MERGE("merge"),
        /** What was personal in rows was emptied or replaced, and they stayed. */
        BLANK("blank"),
        FORGET("forget"),
        PURGE("purge"),
        TRUNCATE("truncate"),
        DROP("drop"),
        /** Rows stayed and lost a link. */
        UNLINK_ORPHANS("unlink-orphans"),
        /** The key of a person was destroyed, by which archived values were encrypted. */
        DESTROY_KEY("destroy-key"),
        HOLD("hold"),
        RELEASE("release");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        /** The kind of an operation. */
        public static Kind of(OperationKind operation) {
            return switch (operation) {
                case ERASE -> ERASE;
                case SOFT_DELETE -> SOFT_DELETE;
                case RESTORE -> RESTORE;
                case REPLACE -> REPLACE;
                case MERGE -> MERGE;
                case BLANK -> BLANK;
                case FORGET -> FORGET;
                case PURGE -> PURGE;
                case TRUNCATE -> TRUNCATE;
                case DROP -> DROP;
                case UNLINK_ORPHANS -> UNLINK_ORPHANS;
            };
        }

        public String word() {
            return word;
        }
    }

    /** How it ended. */
    public enum Ending {
        DONE("done"),
        /** What no rollback would undo was about to be done; another entry of the receipt tells that it was. */
        BEGUN("begun"),
        BLOCKED("blocked"),
        REFUSED("refused"),
        DECLINED("declined");

        private final String word;

        Ending(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    /** How many rows of the selected table. */
    public long rows() {
        return affected().isEmpty() ? 0 : affected().get(0).rows();
    }

    /** All that it has, as Vacancy puts it together; what it is made of may grow in any version. */
    public record Data(
            String id,
            Instant at,
            Kind kind,
            Ending ending,
            String by,
            @Nullable String onBehalfOf,
            Map<String, String> origin,
            @Nullable String because,
            @Nullable Confirmation confirmation,
            @Nullable String table,
            String selected,
            @Nullable String deletion,
            List<AffectedRows> affected,
            List<ReceiptId> receipts,
            @Nullable ReceiptId receipt,
            int part,
            @Nullable String reason,
            ScopeMarks scopes,
            @Nullable ArchiveDigests digests) {

        public Data {
            origin = Collections.unmodifiableMap(new LinkedHashMap<>(origin));
            affected = List.copyOf(affected);
            receipts = List.copyOf(receipts);
        }

        private Data with(ArchiveDigests other) {
            return new Data(
                    id,
                    at,
                    kind,
                    ending,
                    by,
                    onBehalfOf,
                    origin,
                    because,
                    confirmation,
                    table,
                    selected,
                    deletion,
                    affected,
                    receipts,
                    receipt,
                    part,
                    reason,
                    scopes,
                    other);
        }
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof TrailEntry same && data.equals(same.data);
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
