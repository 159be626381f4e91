// SPDX-License-Identifier: Apache-2.0
package io.vacancy.outcome;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Effect;
import io.vacancy.preview.RowSample;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What was done. Plain immutable data, made by Vacancy.
 */
public final class Receipt {

    private final Data data;

    private Receipt(Data data) {
        this.data = data;
    }

    /** For Vacancy's own use. */
    public static Receipt of(Data data) {
        return new Receipt(data);
    }

    /** By which it is looked up, restored and purged; it begins with the time, so that receipts sort by it. */
    public ReceiptId id() {
        return data.id();
    }

    /** The selected table. */
    public TableName table() {
        return data.table();
    }

    /** What was done. */
    public OperationKind operation() {
        return data.operation();
    }

    /** Who did it. */
    public String by() {
        return data.by();
    }

    /** When, by the clock of the machine that did it. */
    public Instant at() {
        return data.at();
    }

    /** Why, or null where nobody said. */
    public @Nullable String because() {
        return data.because();
    }

    /** Why no confirmation was needed, or null. */
    public @Nullable String withoutConfirmation() {
        return data.withoutConfirmation();
    }

    /** The name of the rule book's deletion that was run, or null. */
    public @Nullable String deletion() {
        return data.deletion();
    }

    /** The rules that the request put in the place of the rule book's, as they are written, by relation. */
    public Map<String, String> rules() {
        return data.rules();
    }

    /** The selected rows that were left out because they are blocked. */
    public RowSample skipped() {
        return data.skipped();
    }

    /** The selected rows as they stood last, where they are few; else empty. */
    public List<Row> records() {
        return data.records();
    }

    /**
     * What was done: the selected rows first, then what came with them. Counted, without samples of rows: {@link #records}
     * has the selected ones, and the archive all that went.
     */
    public List<Effect> effects() {
        return data.effects();
    }

    /** Distinct rows by action. */
    public Map<Action, Long> totals() {
        return data.totals();
    }

    /** What the preview warned of. */
    public List<String> warnings() {
        return data.warnings();
    }

    /** Whether rows were archived, so that they can be restored. */
    public boolean archived() {
        return data.archived();
    }

    /** Active and stored rows of the selected table, before and after, where it has a marker; else null. */
    public @Nullable ActiveCounts activeCounts() {
        return data.activeCounts();
    }

    /** What the copy outside the database was called that was made before the commit, or null where there was none. */
    public @Nullable String savedTo() {
        return data.savedTo();
    }

    /** The statements that make again what was dropped, as it was defined; empty where nothing was. */
    public List<String> definition() {
        return data.definition();
    }

    /** How many of the selected rows it was done to. */
    public long rows() {
        return selectedEffects().mapToLong(Effect::rows).sum();
    }

    /** The same by table, in the order of the request; a table of which no row was there is missing. */
    public Map<TableName, Long> selected() {
        Map<TableName, Long> selected = new LinkedHashMap<>();
        selectedEffects().forEach(effect -> selected.merge(effect.table(), effect.rows(), Long::sum));
        return Collections.unmodifiableMap(selected);
    }

    /** The tables of which rows were selected, the first one first; mostly there is one. */
    public List<TableName> selectedFrom() {
        return data.selectedFrom();
    }

    /** No relation leads to rows that were selected; where they are of one table, they come first. */
    Stream<Effect> selectedEffects() {
        return selectedFrom().size() == 1
                ? effects().stream().limit(1)
                : effects().stream()
                        .filter(effect ->
                                effect.relation() == null && selectedFrom().contains(effect.table()));
    }

    /**
     * The one selected row.
     *
     * @throws MisuseException if there were several
     */
    public Row record() {
        if (records().size() != 1) {
            throw new MisuseException(
                    "The receipt is about " + rows() + " rows of " + table() + ", not one.", "Read records() instead.");
        }
        return records().get(0);
    }

    /** All that it has, as Vacancy puts it together; what it is made of may grow in any version. */
    public record Data(
            ReceiptId id,
            TableName table,
            OperationKind operation,
            String by,
            Instant at,
            @Nullable String because,
            @Nullable String withoutConfirmation,
            @Nullable String deletion,
            Map<String, String> rules,
            RowSample skipped,
            List<Row> records,
            List<Effect> effects,
            Map<Action, Long> totals,
            List<String> warnings,
            boolean archived,
            @Nullable ActiveCounts activeCounts,
            @Nullable String savedTo,
            List<TableName> selectedFrom,
            List<String> definition) {

        public Data {
            selectedFrom = selectedFrom.isEmpty() ? List.of(table) : List.copyOf(selectedFrom);
            rules = Collections.unmodifiableMap(new LinkedHashMap<>(rules));
            records = List.copyOf(records);
            effects = List.copyOf(effects);
            totals = Map.copyOf(totals);
            warnings = List.copyOf(warnings);
            definition = List.copyOf(definition);
        }
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof Receipt same && data.equals(same.data);
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
