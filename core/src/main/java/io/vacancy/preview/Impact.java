package io.vacancy.preview;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What a store found when it ran a program, before anybody judges it.
 *
 * @param records the selected rows, where they are few; else empty
 * @param effects the selected rows first, then in program order; lines without rows are left out
 * @param skipped selected rows that are left out because their going is blocked
 * @param skippedBy what blocked them: the blocking rows, and how many of the spared rows are blocked by them first
 * @param missing keys that were asked for and are not there
 * @param totals distinct rows by action
 * @param present how many rows there are, those that stay included, of the tables that were counted
 * @param warnings what the caller ought to know besides, such as triggers
 * @param fingerprint see {@link Fingerprint}
 * @param activeCounts what is seen and what is stored of the selected table, where it has a marker; else null
 * @param archived whether the rows are archived, so that they can be restored
 */
public record Impact(
        List<Row> records,
        List<Effect> effects,
        List<Blocker> blockers,
        RowSample skipped,
        List<SkipReason> skippedBy,
        RowSample missing,
        Map<Action, Long> totals,
        Map<TableName, Long> present,
        List<String> warnings,
        String fingerprint,
        @Nullable ActiveCounts activeCounts,
        boolean archived) {

    /** Findings about a table without a marker. */
    public Impact(
            List<Row> records,
            List<Effect> effects,
            List<Blocker> blockers,
            RowSample skipped,
            List<SkipReason> skippedBy,
            RowSample missing,
            Map<Action, Long> totals,
            Map<TableName, Long> present,
            List<String> warnings,
            String fingerprint) {
        this(
                records,
                effects,
                blockers,
                skipped,
                skippedBy,
                missing,
                totals,
                present,
                warnings,
                fingerprint,
                null,
                false);
    }

    /** The same, with what is seen and what is stored. */
    public Impact with(@Nullable ActiveCounts seen) {
        return with(fingerprint, seen, archived);
    }

    /** The same, with whether the rows are archived. */
    public Impact archived(boolean images) {
        return with(fingerprint, activeCounts, images);
    }

    /** The same, with another fingerprint. */
    public Impact withFingerprint(String other) {
        return with(other, activeCounts, archived);
    }

    private Impact with(String digest, @Nullable ActiveCounts seen, boolean images) {
        return new Impact(
                records, effects, blockers, skipped, skippedBy, missing, totals, present, warnings, digest, seen,
                images);
    }

    public Impact {
        records = List.copyOf(records);
        effects = List.copyOf(effects);
        blockers = List.copyOf(blockers);
        skippedBy = List.copyOf(skippedBy);
        totals = Map.copyOf(totals);
        present = Map.copyOf(present);
        warnings = List.copyOf(warnings);
    }

    /** What is shown to somebody who may not see anything. */
    public static Impact withheld() {
        return nothing(Map.of(), "");
    }

    /** What is found where there is nothing. */
    public static Impact nothing(Map<TableName, Long> present, String fingerprint) {
        return new Impact(
                List.of(),
                List.of(),
                List.of(),
                RowSample.NONE,
                List.of(),
                RowSample.NONE,
                Map.of(),
                present,
                List.of(),
                fingerprint);
    }

    /** How many of the selected rows there are. */
    public long selected() {
        return effects.isEmpty() ? 0 : effects.get(0).rows();
    }

    /** How many rows would go or come back, those of other tables included. */
    public long going() {
        return Stream.of(Action.DELETE, Action.SOFT_DELETE, Action.RESTORE, Action.REPLACE, Action.PURGE)
                .mapToLong(action -> totals.getOrDefault(action, 0L))
                .sum();
    }

    /** Whether the selection is every row of its table, as far as they were counted. */
    public boolean everyRowOf(TableName table) {
        Long there = present.get(table);
        return there != null && there > 0 && there == selected();
    }
}
