// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import java.util.EnumMap;
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
 * @param selectedFrom the tables of which rows are selected, where there are several
 * @param missing keys that were asked for and are not there
 * @param totals distinct rows by action
 * @param present how many rows there are, those that stay included, of the tables that were counted
 * @param warnings what the caller ought to know besides, such as triggers
 * @param fingerprint see {@link Fingerprint}
 * @param activeCounts what is seen and what is stored of the selected table, where it has a marker; else null
 * @param archived whether the rows are archived, so that they can be restored
 * @param hiding tables in the way of which a policy of the database may hide rows from who asks
 * @param savedTo what the copy outside the database is called that the caller has made, or null
 * @param definition the statements that would make again what is dropped; empty where nothing is
 */
public record Impact(
        List<Row> records,
        List<Effect> effects,
        List<Blocker> blockers,
        RowSample skipped,
        List<SkipReason> skippedBy,
        List<TableName> selectedFrom,
        RowSample missing,
        Map<Action, Long> totals,
        Map<TableName, Long> present,
        List<String> warnings,
        String fingerprint,
        @Nullable ActiveCounts activeCounts,
        boolean archived,
        List<TableName> hiding,
        @Nullable String savedTo,
        List<String> definition) {

    public Impact {
        records = List.copyOf(records);
        effects = List.copyOf(effects);
        // How often something hidden is in the way would tell of it.
        blockers = blockers.stream().distinct().toList();
        skippedBy = List.copyOf(skippedBy);
        selectedFrom = List.copyOf(selectedFrom);
        totals = Map.copyOf(totals);
        present = Map.copyOf(present);
        warnings = List.copyOf(warnings);
        hiding = List.copyOf(hiding);
        definition = List.copyOf(definition);
    }

    /** An impact of nothing, to be filled in. */
    public static Builder builder() {
        return new Builder();
    }

    /** All of this, to be changed in part. */
    public Builder toBuilder() {
        return new Builder()
                .records(records)
                .effects(effects, totals)
                .blockers(blockers)
                .skipped(skipped, skippedBy)
                .selectedFrom(selectedFrom)
                .missing(missing)
                .present(present)
                .warnings(warnings)
                .fingerprint(fingerprint)
                .activeCounts(activeCounts)
                .archived(archived)
                .hiding(hiding)
                .savedTo(savedTo)
                .definition(definition);
    }

    /** The same, with whether the rows are archived. */
    public Impact archived(boolean images) {
        return toBuilder().archived(images).build();
    }

    /** The same, with the name of a copy outside the database. */
    public Impact savedTo(@Nullable String copy) {
        return toBuilder().savedTo(copy).build();
    }

    /** The same, with another fingerprint. */
    public Impact withFingerprint(String other) {
        return toBuilder().fingerprint(other).build();
    }

    /** What is shown to somebody who may not see anything. */
    public static Impact nothing() {
        return builder().build();
    }

    /** How many of the selected rows there are. */
    public long selected() {
        if (!selectedFrom.isEmpty()) {
            return selectedFrom.stream().mapToLong(this::selectedOf).sum();
        }
        return effects.isEmpty() ? 0 : effects.get(0).rows();
    }

    /** How many of the selected rows are rows of a table. */
    public long selectedOf(TableName table) {
        // Where there is one table, its effect is the first; elsewhere no relation leads to what is selected.
        Stream<Effect> selected = selectedFrom.isEmpty()
                ? effects.stream().limit(1)
                : effects.stream().filter(effect -> effect.relation() == null);
        return selected.filter(effect -> effect.table().equals(table))
                .mapToLong(Effect::rows)
                .sum();
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
        return there != null && there > 0 && there == selectedOf(table);
    }

    /** Puts an impact together. What is not set is empty. Not for several threads. */
    public static final class Builder {

        private List<Row> records = List.of();
        private List<Effect> effects = List.of();
        private Map<Action, Long> totals = Map.of();
        private List<Blocker> blockers = List.of();
        private RowSample skipped = RowSample.NONE;
        private List<SkipReason> skippedBy = List.of();
        private List<TableName> selectedFrom = List.of();
        private RowSample missing = RowSample.NONE;
        private Map<TableName, Long> present = Map.of();
        private List<String> warnings = List.of();
        private String fingerprint = "";
        private @Nullable ActiveCounts activeCounts;
        private boolean archived;
        private List<TableName> hiding = List.of();
        private @Nullable String savedTo;
        private List<String> definition = List.of();

        private Builder() {}

        /** The tables of which rows are selected, where there are several. */
        public Builder selectedFrom(List<TableName> tables) {
            selectedFrom = tables;
            return this;
        }

        public Builder records(List<Row> rows) {
            records = rows;
            return this;
        }

        /** What would happen, and to how many distinct rows by action; actions without a row are left out. */
        public Builder effects(List<Effect> lines, Map<Action, Long> distinct) {
            effects = lines;
            totals = new EnumMap<>(Action.class);
            distinct.forEach((action, rows) -> {
                if (rows > 0) {
                    totals.put(action, rows);
                }
            });
            return this;
        }

        public Builder blockers(List<Blocker> found) {
            blockers = found;
            return this;
        }

        public Builder skipped(RowSample rows, List<SkipReason> reasons) {
            skipped = rows;
            skippedBy = reasons;
            return this;
        }

        public Builder missing(RowSample keys) {
            missing = keys;
            return this;
        }

        public Builder present(Map<TableName, Long> counted) {
            present = counted;
            return this;
        }

        public Builder warnings(List<String> sentences) {
            warnings = sentences;
            return this;
        }

        public Builder fingerprint(String digest) {
            fingerprint = digest;
            return this;
        }

        public Builder activeCounts(@Nullable ActiveCounts counts) {
            activeCounts = counts;
            return this;
        }

        public Builder archived(boolean images) {
            archived = images;
            return this;
        }

        public Builder hiding(List<TableName> tables) {
            hiding = tables;
            return this;
        }

        public Builder savedTo(@Nullable String copy) {
            savedTo = copy;
            return this;
        }

        public Builder definition(List<String> statements) {
            definition = statements;
            return this;
        }

        public Impact build() {
            return new Impact(
                    records,
                    effects,
                    blockers,
                    skipped,
                    skippedBy,
                    selectedFrom,
                    missing,
                    totals,
                    present,
                    warnings,
                    fingerprint,
                    activeCounts,
                    archived,
                    hiding,
                    savedTo,
                    definition);
        }
    }
}
