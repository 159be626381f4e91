// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.UniqueKey;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Schemas for tests: tables of whole-number columns whose first column is the key. */
public final class SchemaBuilder {

    private final List<Table> tables = new ArrayList<>();
    private final List<Relation> relations = new ArrayList<>();

    public SchemaBuilder table(String name, String... columns) {
        return table(name, List.of(columns[0]), columns);
    }

    public SchemaBuilder table(String name, List<String> key, String... columns) {
        List<Column> all = Arrays.stream(columns)
                .map(column -> new Column(
                        column,
                        new ColumnType(ValueKind.INTEGER, "INTEGER", 32, 0),
                        !key.contains(column),
                        false,
                        false,
                        null))
                .toList();
        tables.add(new Table(
                TableName.of(name),
                false,
                all,
                new UniqueKey("pk", key),
                List.of(),
                List.of(key),
                List.of(),
                List.of(),
                null));
        return this;
    }

    public SchemaBuilder relation(String child, String column, String parent, OnDelete onDelete) {
        relations.add(Relation.of(
                TableName.of(child), List.of(column), TableName.of(parent), List.of("id"), onDelete, true, false));
        return this;
    }

    public Schema build() {
        return new Schema(tables, relations);
    }
}
