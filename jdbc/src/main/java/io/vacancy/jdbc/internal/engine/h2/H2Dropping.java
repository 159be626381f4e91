// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Dropping;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** H2: what uses a table, how it is dropped while all others wait, and the script that makes it again. */
record H2Dropping(Syntax syntax) implements Dropping {

    private static final String CHECKS = "SELECT c.constraint_name, 1, c.check_clause"
            + " FROM information_schema.check_constraints c JOIN information_schema.table_constraints t"
            + " ON t.constraint_schema = c.constraint_schema AND t.constraint_name = c.constraint_name"
            + " WHERE t.table_schema = ? AND t.table_name = ? ORDER BY 1";

    private static final String INDEXES =
            "SELECT i.index_name, 1, LISTAGG(c.column_name, ' ') FROM information_schema.indexes i"
                    + " JOIN information_schema.index_columns c"
                    + " ON c.index_schema = i.index_schema AND c.index_name = i.index_name"
                    + " WHERE i.table_schema = ? AND i.table_name = ? AND NOT i.is_generated"
                    + " GROUP BY i.index_name ORDER BY 1";

    private static final String TRIGGERS = "SELECT trigger_name, CASE WHEN event_object_table = ? THEN 1 ELSE 0 END, ''"
            + " FROM information_schema.triggers WHERE event_object_schema = ? AND event_object_table = ?"
            + " ORDER BY 1";

    /** What others have begun waits meanwhile, and goes on afterwards. Of the others' locks the statement itself tells. */
    @Override
    public Exclusion exclusion(TableName table, @Nullable Long seconds) {
        return new Exclusion("SET EXCLUSIVE 1", "SET EXCLUSIVE 0");
    }

    /** A column of a table that has a view is not dropped, and the attempt leaves a copy of the table behind. */
    @Override
    public boolean viewsKeepColumns() {
        return true;
    }

    @Override
    public @Nullable String obstacle(Connection connection, Table table) throws SQLException {
        List<String> admin = Dropping.texts(
                connection, "SELECT 1 FROM information_schema.users WHERE user_name = CURRENT_USER AND is_admin");
        return admin.isEmpty() ? "only an administrator of H2 can have all others wait meanwhile" : null;
    }

    @Override
    public List<Use> uses(Connection connection, Table table) throws SQLException {
        String schema = table.name().schema() == null
                ? connection.getSchema()
                : table.name().schema();
        String name = table.name().name();
        List<Use> uses = new ArrayList<>(Dropping.read(
                connection,
                Use.Kind.VIEW,
                "SELECT table_name, 0, view_definition FROM information_schema.views"
                        + " WHERE table_schema <> 'INFORMATION_SCHEMA' ORDER BY 1"));
        uses.addAll(Dropping.read(connection, Use.Kind.TRIGGER, TRIGGERS, name, schema, name));
        uses.addAll(Dropping.read(connection, Use.Kind.INDEX, INDEXES, schema, name));
        uses.addAll(Dropping.read(connection, Use.Kind.CHECK, CHECKS, schema, name));
        return uses;
    }

    @Override
    public List<String> definition(Connection connection, Table table) throws SQLException {
        String script = "SCRIPT NODATA NOPASSWORDS NOSETTINGS TABLE " + syntax().table(table.name());
        return Dropping.texts(connection, script).stream()
                .filter(line -> line.startsWith("CREATE ") && !line.startsWith("CREATE USER")
                        || line.startsWith("ALTER TABLE "))
                .map(line -> line.replaceFirst(";\\s*$", ""))
                .toList();
    }
}
