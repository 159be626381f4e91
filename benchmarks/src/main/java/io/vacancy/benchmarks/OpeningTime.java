// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** Reading a schema of 1,000 tables with 3,000 relations, against the engine's one query for foreign keys. */
final class OpeningTime {

    private static final int TABLES = 1_000;

    private OpeningTime() {}

    static void run(Engine engine) throws Exception {
        Database database = engine.fresh();
        List<String> tables = new ArrayList<>();
        for (int i = 0; i < TABLES; i++) {
            StringBuilder table = new StringBuilder(
                    "CREATE TABLE t" + i + " (id INTEGER NOT NULL PRIMARY KEY, a INTEGER, b INTEGER," + " c INTEGER");
            if (i > 0) {
                table.append(", FOREIGN KEY (a) REFERENCES t" + (i - 1) + " (id)");
                table.append(", FOREIGN KEY (b) REFERENCES t" + (i / 2) + " (id)");
                table.append(", FOREIGN KEY (c) REFERENCES t" + (i / 3) + " (id)");
            }
            tables.add(table.append(")").toString());
        }
        database.run(tables.toArray(String[]::new));
        new Rounds()
                .way("one catalogue query for foreign keys", () -> catalogueQuery(database))
                .way("Vacancy reads the whole schema", () -> JdbcStore.of(database.source())
                        .schema())
                .run(2, 7)
                .print("OpeningTime 1,000 tables with 3,000 relations, " + engine);
    }

    private static void catalogueQuery(Database database) throws SQLException {
        try (Connection connection = database.connect()) {
            if (database.engine() == Engine.H2) {
                // Its one query takes over ten seconds; the driver's metadata, table by table, is the fair rival.
                for (int i = 0; i < TABLES; i++) {
                    drain(connection.getMetaData().getImportedKeys(null, connection.getSchema(), "t" + i));
                }
                return;
            }
            String query =
                    switch (database.engine()) {
                        case SQLITE ->
                            "SELECT m.name, f.* FROM sqlite_schema m, pragma_foreign_key_list(m.name) f WHERE m.type = 'table'";
                        case POSTGRESQL ->
                            "SELECT c.conname, k.position, fa.attname, pa.attname, c.confdeltype FROM pg_constraint c"
                                    + " CROSS JOIN LATERAL unnest(c.conkey, c.confkey) WITH ORDINALITY k(fk, pk, position)"
                                    + " JOIN pg_attribute fa ON fa.attrelid = c.conrelid AND fa.attnum = k.fk"
                                    + " JOIN pg_attribute pa ON pa.attrelid = c.confrelid AND pa.attnum = k.pk"
                                    + " WHERE c.contype = 'f'";
                        default ->
                            "SELECT k.*, r.delete_rule FROM information_schema.key_column_usage k"
                                    + " JOIN information_schema.referential_constraints r"
                                    + " ON r.constraint_schema = k.constraint_schema AND r.constraint_name = k.constraint_name"
                                    + " AND r.table_name = k.table_name"
                                    + " WHERE k.table_schema = database() AND k.referenced_table_name IS NOT NULL";
                    };
            try (Statement statement = connection.createStatement()) {
                drain(statement.executeQuery(query));
            }
        }
    }

    private static void drain(ResultSet rows) throws SQLException {
        try (rows) {
            while (rows.next()) {
                rows.getString(1);
            }
        }
    }
}
