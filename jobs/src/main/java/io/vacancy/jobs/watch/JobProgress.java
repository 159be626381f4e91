// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import java.time.Duration;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * How far a run of a job is. What it counts is committed.
 *
 * @param selected how many rows the job selects, or null while nobody knows
 * @param expected how many rows would be removed or changed in all, as it was shown; null where nothing was
 * @param handled how many of the selected rows it has dealt with, those that it left out included
 * @param totals rows by what was done to them, in all tables
 * @param tables rows by table
 * @param changed selected rows that were left out because they are not as they were shown
 * @param missing selected rows that were gone already
 * @param skipped selected rows that were left out because something blocks them
 * @param batches committed transactions, each a part of the receipt
 * @param retries how often a batch was tried again
 * @param selectedInBatch how many selected rows the next batch takes
 * @param worked how long it has worked and held back, waiting for its window and pauses apart
 * @param table where it works now, or null
 * @param note why it holds back since its last batch; null where it does not
 */
public record JobProgress(
        @Nullable Long selected,
        @Nullable Long expected,
        long handled,
        Map<Action, Long> totals,
        Map<String, Long> tables,
        long changed,
        long missing,
        long skipped,
        long batches,
        long retries,
        int selectedInBatch,
        Duration worked,
        @Nullable String table,
        @Nullable String note) {

    /** Nothing is done yet. */
    public static final JobProgress NONE =
            new JobProgress(null, null, 0, Map.of(), Map.of(), 0, 0, 0, 0, 0, 0, Duration.ZERO, null, null);

    public JobProgress {
        totals = Map.copyOf(totals);
        tables = Map.copyOf(tables);
    }

    /** How many rows were removed or changed in all tables together. */
    public long rows() {
        return totals.values().stream().mapToLong(Long::longValue).sum();
    }

    /** Rows a second so far; 0 before the first. */
    public double rate() {
        return worked.isZero() ? 0 : rows() / (worked.toNanos() / 1e9);
    }

    /** How much of it is done, from 0 to 1; null while nobody can tell. */
    public @Nullable Double share() {
        Long of = selected;
        return of == null ? null : of == 0 ? Double.valueOf(1) : Double.valueOf(Math.min(1, (double) handled / of));
    }

    /** How long the rest will take as fast as it was so far; null while nobody can tell. */
    public @Nullable Duration remaining() {
        Double share = share();
        return share == null || share == 0
                ? null
                : Duration.ofMillis(Math.round(worked.toMillis() * (1 - share) / share));
    }

    /** All of it, to be changed in part. */
    private static final class Parts {
        private long handled;
        private Map<Action, Long> totals;
        private Map<String, Long> tables;
        private long changed;
        private long missing;
        private long skipped;
        private long batches;
        private long retries;
        private int selectedInBatch;
        private Duration worked;
        private @Nullable String table;
        private @Nullable String note;

        private Parts(JobProgress of) {
            handled = of.handled;
            totals = of.totals;
            tables = of.tables;
            changed = of.changed;
            missing = of.missing;
            skipped = of.skipped;
            batches = of.batches;
            retries = of.retries;
            selectedInBatch = of.selectedInBatch;
            worked = of.worked;
            table = of.table;
            note = of.note;
        }
    }

    private JobProgress with(Consumer<Parts> change) {
        Parts parts = new Parts(this);
        change.accept(parts);
        return new JobProgress(
                selected,
                expected,
                parts.handled,
                parts.totals,
                parts.tables,
                parts.changed,
                parts.missing,
                parts.skipped,
                parts.batches,
                parts.retries,
                parts.selectedInBatch,
                parts.worked,
                parts.table,
                parts.note);
    }

    /** The same with one more batch, which left a receipt. */
    public JobProgress with(Receipt receipt) {
        Map<String, Long> inTables = new TreeMap<>(tables);
        for (Effect effect : receipt.effects()) {
            inTables.merge(effect.table().toString(), effect.rows(), Long::sum);
        }
        return with(parts -> {
            parts.totals = sum(totals, receipt.totals());
            parts.tables = inTables;
            parts.batches++;
            parts.table = receipt.table().toString();
            parts.note = null;
        });
    }

    /** The same with so many more selected rows dealt with, of which some were left out. */
    public JobProgress handling(long more, long moreChanged, long moreMissing, long moreSkipped) {
        return with(parts -> {
            parts.handled += more;
            parts.changed += moreChanged;
            parts.missing += moreMissing;
            parts.skipped += moreSkipped;
        });
    }

    /** The same after so much more work in a table; null for none that is known. */
    public JobProgress working(Duration more, @Nullable String in) {
        return with(parts -> {
            parts.worked = worked.plus(more);
            parts.table = in;
            parts.note = null;
        });
    }

    /** The same after so many more retries, with so many selected rows in its next batch. */
    public JobProgress sized(int inBatch, long moreRetries) {
        return with(parts -> {
            parts.selectedInBatch = inBatch;
            parts.retries += moreRetries;
        });
    }

    /** The same while it holds back. */
    public JobProgress holding(String why) {
        return with(parts -> parts.note = why);
    }

    /** What several did, together. */
    public JobProgress plus(JobProgress other) {
        return new JobProgress(
                selected == null ? other.selected : selected,
                expected == null ? other.expected : expected,
                handled + other.handled,
                sum(totals, other.totals),
                sum(tables, other.tables),
                changed + other.changed,
                missing + other.missing,
                skipped + other.skipped,
                batches + other.batches,
                retries + other.retries,
                Math.max(selectedInBatch, other.selectedInBatch),
                worked.compareTo(other.worked) > 0 ? worked : other.worked,
                table == null ? other.table : table,
                note == null ? other.note : note);
    }

    private static <K> Map<K, Long> sum(Map<K, Long> one, Map<K, Long> other) {
        Map<K, Long> sum = new TreeMap<>(one);
        other.forEach((key, rows) -> sum.merge(key, rows, Long::sum));
        return sum;
    }
}
