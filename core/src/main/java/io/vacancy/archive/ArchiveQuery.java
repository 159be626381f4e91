// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.internal.argument.Arguments;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Which of the things that are kept are meant; each part that is not null narrows them. Immutable.
 *
 * @param table as the caller wrote it
 * @param receipts of these receipts only; of any if empty
 * @param since no older than this
 * @param before older than this
 * @param dueAt whose time is over by then
 * @param used whether what was brought back entirely, or is gone for good, is meant as well
 */
public record ArchiveQuery(
        @Nullable String table,
        List<ReceiptId> receipts,
        @Nullable String by,
        @Nullable Instant since,
        @Nullable Instant before,
        @Nullable Instant dueAt,
        boolean used) {

    private static final ArchiveQuery ALL = new ArchiveQuery(null, List.of(), null, null, null, null, false);

    public ArchiveQuery {
        Arguments.noneNull(receipts, "receipts");
        receipts = List.copyOf(receipts);
    }

    /** Everything that can be brought back. */
    public static ArchiveQuery all() {
        return ALL;
    }

    /** Only of this table. */
    public ArchiveQuery of(String name) {
        Arguments.notBlank(name, "name");
        return new ArchiveQuery(name, receipts, by, since, before, dueAt, used);
    }

    /** Only of these receipts. */
    public ArchiveQuery receipts(List<ReceiptId> ids) {
        Arguments.noneNull(ids, "ids");
        return new ArchiveQuery(table, ids, by, since, before, dueAt, used);
    }

    /** Only what this one did. */
    public ArchiveQuery by(String who) {
        Arguments.notBlank(who, "who");
        return new ArchiveQuery(table, receipts, who, since, before, dueAt, used);
    }

    /** Only what was done at this time or later. */
    public ArchiveQuery since(Instant time) {
        Arguments.notNull(time, "time");
        return new ArchiveQuery(table, receipts, by, time, before, dueAt, used);
    }

    /** Only what was done before this time. */
    public ArchiveQuery before(Instant time) {
        Arguments.notNull(time, "time");
        return new ArchiveQuery(table, receipts, by, since, time, dueAt, used);
    }

    /** Only what may go for good at this time. */
    public ArchiveQuery dueAt(Instant time) {
        Arguments.notNull(time, "time");
        return new ArchiveQuery(table, receipts, by, since, before, time, used);
    }

    /** What was brought back entirely, or is gone for good, as well. */
    public ArchiveQuery withUsed() {
        return new ArchiveQuery(table, receipts, by, since, before, dueAt, true);
    }
}
