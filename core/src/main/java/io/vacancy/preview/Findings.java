package io.vacancy.preview;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What a store found when it ran a program, before anybody judges it.
 *
 * @param records the selected rows, where they are few; else empty
 * @param effects the selected rows first, then in program order; lines without rows are left out
 * @param spared selected rows that are left out because their going is blocked
 * @param sparedBy what blocked them: the blocking rows, and how many of the spared rows are blocked by them first
 * @param missing keys that were asked for and are not there
 * @param totals distinct rows by action
 * @param present how many rows there are, those that stay included, of the tables that were counted
 * @param warnings what the caller ought to know besides, such as triggers
 * @param fingerprint see {@link Fingerprint}
 * @param visibility what is seen and what is stored of the selected table, where it has a marker; else null
 * @param kept whether images of the rows are kept, so that they can be brought back
 */
public record Findings(
        List<Row> records,
        List<Effect> effects,
        List<Blocker> blockers,
        Portion spared,
        List<Sparing> sparedBy,
        Portion missing,
        Map<Action, Long> totals,
        Map<TableName, Long> present,
        List<String> warnings,
        String fingerprint,
        @Nullable Visibility visibility,
        boolean kept) {

    /** Findings about a table without a marker. */
    public Findings(
            List<Row> records,
            List<Effect> effects,
            List<Blocker> blockers,
            Portion spared,
            List<Sparing> sparedBy,
            Portion missing,
            Map<Action, Long> totals,
            Map<TableName, Long> present,
            List<String> warnings,
            String fingerprint) {
        this(
                records,
                effects,
                blockers,
                spared,
                sparedBy,
                missing,
                totals,
                present,
                warnings,
                fingerprint,
                null,
                false);
    }

    /** The same, with what is seen and what is stored. */
    public Findings with(@Nullable Visibility seen) {
        return new Findings(
                records,
                effects,
                blockers,
                spared,
                sparedBy,
                missing,
                totals,
                present,
                warnings,
                fingerprint,
                seen,
                kept);
    }

    /** The same, with whether images of the rows are kept. */
    public Findings kept(boolean images) {
        return new Findings(
                records,
                effects,
                blockers,
                spared,
                sparedBy,
                missing,
                totals,
                present,
                warnings,
                fingerprint,
                visibility,
                images);
    }

    public Findings {
        records = List.copyOf(records);
        effects = List.copyOf(effects);
        blockers = List.copyOf(blockers);
        sparedBy = List.copyOf(sparedBy);
        totals = Map.copyOf(totals);
        present = Map.copyOf(present);
        warnings = List.copyOf(warnings);
    }

    /** What is shown to somebody who may not see anything. */
    public static Findings withheld() {
        return nothing(Map.of(), "");
    }

    /** What is found where there is nothing. */
    public static Findings nothing(Map<TableName, Long> present, String fingerprint) {
        return new Findings(
                List.of(),
                List.of(),
                List.of(),
                Portion.NONE,
                List.of(),
                Portion.NONE,
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
