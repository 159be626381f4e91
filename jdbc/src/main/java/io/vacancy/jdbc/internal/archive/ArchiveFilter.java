// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The selection of a request, as what holds for a row t that an image would become. */
final class ArchiveFilter {

    private static final int KEYS_AT_ONCE = 500;
    private static final int MOST_KEYS = 10_000;

    private ArchiveFilter() {}

    /**
     * Null where every image of the table is meant.
     *
     * @throws MisuseException if rows are chosen by code, by their place in an order, or by too many keys
     */
    static @Nullable Sql of(ExecutionPlan deletion, Table table, Dialect dialect, ConditionCompiler terms) {
        Target target = deletion.target();
        if (target.filter() != null || target.first() != null || target.orphansOf() != null) {
            throw new MisuseException(
                    "Images are selected by key, by condition, or all of them; not by code, nor by a place in an order.",
                    "Select them by a condition.");
        }
        Sql all = new Sql();
        Target.Keys keys = target.keys();
        if (keys != null) {
            all.add(keys(keys, table, dialect));
        }
        if (target.which() != null) {
            all.add(all.text().isEmpty() ? "" : " AND ").add(terms.condition(table.name(), target.which(), "t"));
        }
        Sql scope = terms.inScope(table.name(), "t");
        if (scope != null) {
            all.add(all.text().isEmpty() ? "" : " AND ").add(scope);
        }
        return all.text().isEmpty() ? null : all;
    }

    /** That row t is one of these. */
    static Sql keys(Target.Keys keys, Table table, Dialect dialect) {
        if (keys.given() > MOST_KEYS) {
            throw new MisuseException(
                    keys.given() + " keys of images are given, and " + MOST_KEYS + " are the most.",
                    "Select them by a condition, or take the whole receipt.");
        }
        List<KeyColumn> columns = table.identity().columns().stream()
                .map(name -> new KeyColumn(name, table.column(name).type(), false))
                .toList();
        List<String> expressions = columns.stream()
                .map(column -> "t." + dialect.syntax().quote(column.name()))
                .toList();
        Sql any = Sql.of("(");
        List<List<Object>> some = new ArrayList<>();
        for (List<Object> key : keys.each()) {
            some.add(key);
            if (some.size() == KEYS_AT_ONCE) {
                any.add(any.text().length() == 1 ? "" : " OR ")
                        .add(dialect.syntax().inList(expressions, columns, some));
                some.clear();
            }
        }
        if (!some.isEmpty()) {
            any.add(any.text().length() == 1 ? "" : " OR ").add(dialect.syntax().inList(expressions, columns, some));
        }
        return any.add(")");
    }
}
