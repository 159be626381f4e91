// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.UniqueKey;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a schema is without a table, or without a column of one.
 *
 * @param column null for the whole table
 */
record SchemaWithout(
        Schema before, TableName table, @Nullable String column) {

    Schema schema() {
        List<Table> tables = before.tables().stream()
                .filter(each -> column != null || !each.name().equals(table))
                .map(each -> each.name().equals(table) ? narrower(each) : each)
                .toList();
        List<Relation> relations =
                before.relations().stream().filter(each -> !uses(each)).toList();
        return new Schema(tables, relations);
    }

    private boolean uses(Relation relation) {
        return (relation.child().equals(table)
                        && (column == null || relation.childColumns().contains(column)))
                || (relation.parent().equals(table)
                        && (column == null || relation.parentColumns().contains(column)));
    }

    private Table narrower(Table whole) {
        UniqueKey primaryKey = whole.primaryKey();
        return new Table(
                whole.name(),
                whole.view(),
                whole.columns().stream()
                        .filter(each -> !each.name().equals(column))
                        .toList(),
                primaryKey == null || primaryKey.columns().contains(column) ? null : primaryKey,
                whole.uniqueKeys().stream()
                        .filter(key -> !key.columns().contains(column))
                        .toList(),
                List.of(),
                whole.partialUniqueKeys().stream()
                        .filter(key -> !key.contains(column))
                        .toList(),
                whole.triggers(),
                null);
    }
}
