// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import io.vacancy.request.OperationKind;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import io.vacancy.spi.plan.EncryptedColumns;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Which personal columns of archived rows are encrypted by the key of whom: of rows that are persons, of those that refer to
 * one, and of everything where one person is forgotten. Keys, links and bytes stay as they are.
 */
record EncryptionPolicy(ResolvedRules rules, OperationKind operation) {

    Map<TableName, EncryptedColumns> of(Stream<TableName> tables) {
        Map<TableName, EncryptedColumns> encrypted = new HashMap<>();
        tables.distinct().forEach(name -> {
            EncryptedColumns columns = of(rules.schema().table(name));
            if (columns != null && !columns.columns().isEmpty()) {
                encrypted.put(name, columns);
            }
        });
        return encrypted;
    }

    private @Nullable EncryptedColumns of(Table table) {
        if (!table.identity().lasts()) {
            return null;
        }
        if (rules.persons().contains(table.name())) {
            return new EncryptedColumns(
                    columns(table), table.name(), table.identity().columns());
        }
        if (operation == OperationKind.FORGET) {
            return rules.persons().stream()
                    .findFirst()
                    .map(person -> new EncryptedColumns(columns(table), person, List.of()))
                    .orElse(null);
        }
        Schema schema = rules.schema();
        return schema.relationsFrom(table.name()).stream()
                .filter(relation -> rules.persons().contains(relation.parent())
                        && !relation.list()
                        && relation.discriminator() == null
                        && relation.parentColumns()
                                .equals(schema.table(relation.parent())
                                        .identity()
                                        .columns()))
                .findFirst()
                .map(relation -> new EncryptedColumns(columns(table), relation.parent(), relation.childColumns()))
                .orElse(null);
    }

    private List<String> columns(Table table) {
        List<String> related = Stream.concat(
                        rules.schema().relationsFrom(table.name()).stream().map(Relation::childColumns),
                        rules.schema().relationsTo(table.name()).stream().map(Relation::parentColumns))
                .flatMap(List::stream)
                .toList();
        return table.columns().stream()
                .filter(column -> column.type().kind() != ValueKind.BINARY && !column.generated())
                .map(Column::name)
                .filter(column -> Objects.nonNull(rules.personal().origin(table.name(), column))
                        && !related.contains(column)
                        && !table.identity().columns().contains(column))
                .toList();
    }
}
