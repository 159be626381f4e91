// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Dropping;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.Table;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** SQLite: what uses a table, and the statements that made it, which it keeps as they were written. */
record SqliteDropping(Syntax syntax) implements Dropping {

    @Override
    public List<Use> uses(Connection connection, Table table) throws SQLException {
        List<Use> uses = new ArrayList<>();
        String select = "SELECT name, lower(tbl_name) = lower(?), sql FROM sqlite_schema WHERE sql IS NOT NULL AND ";
        String name = table.name().name();
        uses.addAll(Dropping.read(connection, Use.Kind.VIEW, select + "type = 'view' ORDER BY name", name));
        uses.addAll(Dropping.read(connection, Use.Kind.TRIGGER, select + "type = 'trigger' ORDER BY name", name));
        String indexes = select + "type = 'index' AND lower(tbl_name) = lower(?) ORDER BY name";
        uses.addAll(Dropping.read(connection, Use.Kind.INDEX, indexes, name, name));
        return uses;
    }

    @Override
    public List<String> definition(Connection connection, Table table) throws SQLException {
        return Dropping.texts(
                connection,
                "SELECT sql FROM sqlite_schema WHERE lower(tbl_name) = lower(?) AND type <> 'view' AND sql IS NOT NULL"
                        + " ORDER BY CASE type WHEN 'table' THEN 0 WHEN 'index' THEN 1 ELSE 2 END, name",
                table.name().name());
    }

    @Override
    public String defaultOf(String alter, String column, String value) {
        return "-- the default of " + column + " was " + value;
    }
}
