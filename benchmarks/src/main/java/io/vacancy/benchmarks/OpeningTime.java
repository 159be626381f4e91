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
import javax.sql.DataSource;

/**
 * Reading a schema of 1,000 tables with 3,000 relations, against the leanest queries for the same facts, whose rows are
 * read and thrown away: columns, keys, foreign keys, triggers.
 */
final class OpeningTime {

    private static final int TABLES = 1_000;

    private OpeningTime() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
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
        RoundTrips trips = new RoundTrips();
        DataSource source = trips.counted(database.source());
        new Rounds("Opening 1000 tables with 3000 relations, " + engine, trips)
                .way("catalogue queries", () -> catalogueQueries(engine, source))
                .way("Vacancy reads the whole schema", "catalogue queries", () -> JdbcStore.of(source)
                        .schema())
                .run(3, 9)
                .report(ratios);
    }

    private static void catalogueQueries(Engine engine, DataSource source) throws SQLException {
        try (Connection connection = source.getConnection();
                Statement statement = connection.createStatement()) {
            for (String query : queries(engine)) {
                drain(statement.executeQuery(query));
            }
            if (engine == Engine.H2) {
                // Its one query for foreign keys takes over ten seconds; the driver's metadata table by table is lean.
                for (int i = 0; i < TABLES; i++) {
                    drain(connection.getMetaData().getImportedKeys(null, connection.getSchema(), "t" + i));
                }
            }
        }
    }

    private static List<String> queries(Engine engine) {
        return switch (engine) {
            case SQLITE ->
                List.of(
                        "SELECT m.name, c.* FROM sqlite_schema m, pragma_table_xinfo(m.name) c WHERE m.type = 'table'",
                        "SELECT m.name, i.name, c.name FROM sqlite_schema m, pragma_index_list(m.name) i,"
                                + " pragma_index_xinfo(i.name) c WHERE m.type = 'table' AND i.\"unique\"",
                        "SELECT m.name, f.* FROM sqlite_schema m, pragma_foreign_key_list(m.name) f WHERE m.type = 'table'",
                        "SELECT name, tbl_name FROM sqlite_schema WHERE type = 'trigger'");
            case H2 ->
                List.of(
                        "SELECT * FROM information_schema.columns WHERE table_schema <> 'INFORMATION_SCHEMA'",
                        "SELECT * FROM information_schema.index_columns WHERE is_unique",
                        "SELECT * FROM information_schema.triggers");
            case POSTGRESQL ->
                List.of(
                        "SELECT c.relname, a.attname, format_type(a.atttypid, a.atttypmod), a.attnotnull FROM pg_class c"
                                + " JOIN pg_attribute a ON a.attrelid = c.oid WHERE c.relkind IN ('r', 'p') AND a.attnum > 0"
                                + " AND c.relnamespace = current_schema()::regnamespace",
                        "SELECT i.indrelid, i.indkey::text FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid"
                                + " WHERE i.indisunique AND c.relnamespace = current_schema()::regnamespace",
                        "SELECT c.conname, k.position, fa.attname, pa.attname, c.confdeltype FROM pg_constraint c"
                                + " CROSS JOIN LATERAL unnest(c.conkey, c.confkey) WITH ORDINALITY k(fk, pk, position)"
                                + " JOIN pg_attribute fa ON fa.attrelid = c.conrelid AND fa.attnum = k.fk"
                                + " JOIN pg_attribute pa ON pa.attrelid = c.confrelid AND pa.attnum = k.pk"
                                + " WHERE c.contype = 'f'",
                        "SELECT tgrelid, tgname FROM pg_trigger WHERE NOT tgisinternal");
            default ->
                List.of(
                        "SELECT * FROM information_schema.columns WHERE table_schema = database()",
                        "SELECT * FROM information_schema.statistics WHERE table_schema = database() AND non_unique = 0",
                        "SELECT k.*, r.delete_rule FROM information_schema.key_column_usage k"
                                + " JOIN information_schema.referential_constraints r"
                                + " ON r.constraint_schema = k.constraint_schema AND r.constraint_name = k.constraint_name"
                                + " AND r.table_name = k.table_name"
                                + " WHERE k.table_schema = database() AND k.referenced_table_name IS NOT NULL",
                        "SELECT trigger_name, event_object_table FROM information_schema.triggers"
                                + " WHERE event_object_schema = database()");
        };
    }

    private static void drain(ResultSet rows) throws SQLException {
        try (rows) {
            while (rows.next()) {
                rows.getString(1);
            }
        }
    }
}
