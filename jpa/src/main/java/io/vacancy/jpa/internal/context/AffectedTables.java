// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.context;

import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Effect;
import io.vacancy.rules.AuditColumns;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The tables of which rows were removed, brought back or changed, with the columns that may have been written.
 *
 * @param written by the table's name as it is written, in any case
 */
public record AffectedTables(Map<String, Set<String>> written) {

    /** Those of a receipt. */
    public static AffectedTables of(Receipt receipt, ResolvedRules rules) {
        Set<TableName> tables = new LinkedHashSet<>();
        for (Effect effect : receipt.effects()) {
            tables.add(effect.table());
        }
        for (TableName table : Set.copyOf(tables)) {
            stampedParents(table, rules, tables);
        }
        Map<String, Set<String>> written = new LinkedHashMap<>();
        tables.forEach(table -> written.put(lower(table.toString()), columns(table, rules)));
        return new AffectedTables(written);
    }

    private static void stampedParents(TableName table, ResolvedRules rules, Set<TableName> tables) {
        AuditColumns stamps = rules.auditColumns(table);
        if (stamps != null) {
            stamps.parents()
                    .forEach(relation ->
                            tables.add(rules.schema().relation(relation).parent()));
        }
    }

    /** Its marker, its stamps and its links: nothing else of a row that stays is ever written. */
    private static Set<String> columns(TableName table, ResolvedRules rules) {
        Set<String> columns = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
        ResolvedMarker marker = rules.marker(table);
        if (marker != null) {
            columns.addAll(marker.columns());
            columns.addAll(marker.companions());
        }
        AuditColumns stamps = rules.auditColumns(table);
        if (stamps != null) {
            Stream.of(stamps.changedBy(), stamps.changedAt(), stamps.version())
                    .filter(name -> name != null)
                    .forEach(columns::add);
        }
        for (Relation relation : rules.schema().relationsFrom(table)) {
            columns.addAll(relation.childColumns());
        }
        return columns;
    }

    /** The columns that may have been written in a table; null where it is none of them. */
    @Nullable
    Set<String> columns(String table) {
        return written.get(lower(table));
    }

    boolean has(String table) {
        return written.containsKey(lower(table));
    }

    private static String lower(String name) {
        return name.toLowerCase(Locale.ROOT);
    }
}
