package io.vacancy.archive;

import io.vacancy.failure.MisuseException;
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
public record KeptQuery(
        @Nullable String table,
        List<String> receipts,
        @Nullable String by,
        @Nullable Instant since,
        @Nullable Instant before,
        @Nullable Instant dueAt,
        boolean used) {

    private static final KeptQuery ALL = new KeptQuery(null, List.of(), null, null, null, null, false);

    public KeptQuery {
        receipts = List.copyOf(receipts);
        if (receipts.stream().anyMatch(String::isBlank)) {
            throw new MisuseException("A receipt without an identifier is named.");
        }
    }

    /** Everything that can be brought back. */
    public static KeptQuery all() {
        return ALL;
    }

    /** Only of this table. */
    public KeptQuery of(String name) {
        return new KeptQuery(name, receipts, by, since, before, dueAt, used);
    }

    /** Only of these receipts. */
    public KeptQuery receipts(List<String> ids) {
        return new KeptQuery(table, ids, by, since, before, dueAt, used);
    }

    /** Only what this one did. */
    public KeptQuery by(String who) {
        return new KeptQuery(table, receipts, who, since, before, dueAt, used);
    }

    /** Only what was done at this time or later. */
    public KeptQuery since(Instant time) {
        return new KeptQuery(table, receipts, by, time, before, dueAt, used);
    }

    /** Only what was done before this time. */
    public KeptQuery before(Instant time) {
        return new KeptQuery(table, receipts, by, since, time, dueAt, used);
    }

    /** Only what may go for good at this time. */
    public KeptQuery dueAt(Instant time) {
        return new KeptQuery(table, receipts, by, since, before, time, used);
    }

    /** What was brought back entirely, or is gone for good, as well. */
    public KeptQuery withUsed() {
        return new KeptQuery(table, receipts, by, since, before, dueAt, true);
    }
}
