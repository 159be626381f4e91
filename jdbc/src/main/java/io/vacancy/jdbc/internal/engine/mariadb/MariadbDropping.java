// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Dropping;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** MariaDB: what uses a table, how it is dropped while nobody else gets to it, and the statements that make it again. */
record MariadbDropping(Syntax syntax) implements Dropping {

    /** Under the alias that rows are compared by, too. */
    @Override
    public Exclusion exclusion(TableName table, @Nullable Long seconds) {
        String wait = seconds == null ? "" : " WAIT " + seconds;
        String name = syntax().table(table);
        return new Exclusion("LOCK TABLES " + name + " WRITE, " + name + " AS t WRITE" + wait, "UNLOCK TABLES");
    }

    /** A lock on a table is one of this node alone. */
    @Override
    public @Nullable String obstacle(Connection connection, Table table) throws SQLException {
        return Dropping.texts(
                                connection,
                                "SELECT variable_value FROM information_schema.global_variables"
                                        + " WHERE variable_name = 'WSREP_ON' AND variable_value = 'ON'")
                        .isEmpty()
                ? null
                : "the server is a node of a cluster, and nothing keeps the other nodes from the table meanwhile";
    }

    @Override
    public List<Use> uses(Connection connection, Table table) throws SQLException {
        String schema = table.name().schema() == null
                ? connection.getCatalog()
                : table.name().schema();
        String name = table.name().name();
        List<Use> uses = new ArrayList<>(Dropping.read(
                connection,
                Use.Kind.VIEW,
                "SELECT table_name, 0, view_definition FROM information_schema.views WHERE table_schema = ? ORDER BY 1",
                schema));
        uses.addAll(Dropping.read(
                connection,
                Use.Kind.TRIGGER,
                "SELECT trigger_name, event_object_table = ?, action_statement FROM information_schema.triggers"
                        + " WHERE trigger_schema = ? ORDER BY 1",
                name,
                schema));
        uses.addAll(Dropping.read(
                connection,
                Use.Kind.INDEX,
                "SELECT index_name, 1, GROUP_CONCAT(column_name SEPARATOR ' ') FROM information_schema.statistics"
                        + " WHERE table_schema = ? AND table_name = ? AND index_name <> 'PRIMARY'"
                        + " GROUP BY index_name ORDER BY 1",
                schema,
                name));
        uses.addAll(Dropping.read(
                connection,
                Use.Kind.CHECK,
                "SELECT constraint_name, 1, check_clause FROM information_schema.check_constraints"
                        + " WHERE constraint_schema = ? AND table_name = ? ORDER BY 1",
                schema,
                name));
        return uses;
    }

    @Override
    public List<String> definition(Connection connection, Table table) throws SQLException {
        List<String> statements = new ArrayList<>();
        try (Statement statement = connection.createStatement()) {
            statements.add(created(statement, "SHOW CREATE TABLE " + syntax().table(table.name()), 2));
            for (String trigger : table.triggers()) {
                // Whoever runs it is its definer where nobody was.
                statements.add(created(statement, "SHOW CREATE TRIGGER " + syntax().quote(trigger), 3)
                        .replaceFirst("^CREATE DEFINER=``(@`[^`]*`)? ", "CREATE "));
            }
        }
        return statements;
    }

    private static String created(Statement statement, String show, int place) throws SQLException {
        try (ResultSet row = statement.executeQuery(show)) {
            row.next();
            return row.getString(place);
        }
    }
}
