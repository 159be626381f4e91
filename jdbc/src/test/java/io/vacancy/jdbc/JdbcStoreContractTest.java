// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.spi.Store;
import io.vacancy.test.StoreContract;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedClass;
import org.junit.jupiter.params.provider.MethodSource;

@ParameterizedClass
@MethodSource("io.vacancy.engines.Engine#all")
class JdbcStoreContractTest extends StoreContract {

    private final Database database;

    JdbcStoreContractTest(Engine engine) {
        this.database = engine.fresh();
    }

    @Override
    protected Store store(List<Row> rows) {
        // Parents first; a table that refers to itself does so in its own definition.
        Stream.of("skipper", "boat", "mooring", "fee", "yard", "work_order")
                .map(name -> definition(SCHEMA.table(name)))
                .forEach(database::run);
        rows.stream().map(JdbcStoreContractTest::insertion).forEach(database::run);
        return JdbcStore.of(database.source());
    }

    private static String definition(Table table) {
        Stream<String> columns = table.columns().stream().map(JdbcStoreContractTest::definition);
        Stream<String> keys = Stream.of("PRIMARY KEY (id)");
        Stream<String> links = SCHEMA.relationsFrom(table.name()).stream().map(JdbcStoreContractTest::definition);
        return Stream.of(columns, keys, links)
                .flatMap(parts -> parts)
                .collect(Collectors.joining(", ", "CREATE TABLE " + table + " (", ")"));
    }

    private static String definition(Column column) {
        String type =
                switch (column.type().kind()) {
                    case INTEGER -> "INTEGER";
                    case BOOLEAN -> "BOOLEAN";
                    case DATE -> "DATE";
                    default -> "VARCHAR(60)";
                };
        return column.name() + " " + type + (column.nullable() ? "" : " NOT NULL");
    }

    private static String definition(Relation relation) {
        return "FOREIGN KEY (" + relation.childColumns().get(0) + ") REFERENCES " + relation.parent() + " (id)";
    }

    private static String insertion(Row row) {
        String values = row.values().values().stream()
                .map(value -> value instanceof String
                        ? "'" + value + "'"
                        : String.valueOf(value).toUpperCase(Locale.ROOT))
                .collect(Collectors.joining(", "));
        return "INSERT INTO " + row.table() + " VALUES (" + values + ")";
    }

    @Override
    protected long count(Store store, String table) {
        return database.count(table);
    }
}
