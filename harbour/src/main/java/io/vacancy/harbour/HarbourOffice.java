// SPDX-License-Identifier: Apache-2.0
package io.vacancy.harbour;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The made-up harbour office: tables and rows to try everything on. */
public final class HarbourOffice {

    private HarbourOffice() {}

    /** Makes the tables in an empty database and fills them. Commits nothing if auto-commit is off. */
    public static void build(Connection connection) throws SQLException {
        run(connection, tables(connection));
        run(connection, statements("rows.sql"));
    }

    /** The office's rule book, as the text of a YAML file. */
    public static String ruleBook() {
        return text("rules.yaml");
    }

    /** The statements that make the tables, for the engine of this connection. */
    static List<String> tables(Connection connection) throws SQLException {
        boolean sqlite = connection.getMetaData().getDatabaseProductName().equals("SQLite");
        // A pier has a head berth, and a berth a pier. SQLite takes a foreign key to a table that comes later
        // and cannot add one afterwards; other engines have it the other way round.
        String later = ",\n  FOREIGN KEY (head_berth_id) REFERENCES berth (id) ON DELETE SET NULL";
        List<String> tables = statements("tables.sql").stream()
                .map(sql -> sqlite && sql.startsWith("CREATE TABLE pier")
                        ? sql.replace("head_berth_id INTEGER", "head_berth_id INTEGER" + later)
                        : sql)
                .toList();
        if (sqlite) {
            return tables;
        }
        List<String> all = new ArrayList<>(tables);
        all.add("ALTER TABLE pier ADD FOREIGN KEY (head_berth_id) REFERENCES berth (id) ON DELETE SET NULL");
        return all;
    }

    private static List<String> statements(String resource) {
        String text = text(resource).replaceAll("(?m)^--.*\\n", "");
        return Arrays.stream(text.split(";\\s*\\n"))
                .map(String::strip)
                .filter(sql -> !sql.isEmpty())
                .toList();
    }

    private static String text(String resource) {
        try (InputStream in = HarbourOffice.class.getResourceAsStream(resource)) {
            if (in == null) {
                throw new IllegalStateException("resource " + resource + " is missing");
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static void run(Connection connection, List<String> statements) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }
}
