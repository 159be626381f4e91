// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** How tables and columns are dropped, what uses them, and what would make them again. The defaults are standard SQL. */
public interface Dropping {

    /** How names are written here. */
    Syntax syntax();

    /** The statement that drops a table; it must not drop or change anything that refers to it. */
    default String table(TableName table) {
        return "DROP TABLE " + syntax().table(table);
    }

    /** The statement that drops a column. */
    default String column(TableName table, String column) {
        return "ALTER TABLE " + syntax().table(table) + " DROP COLUMN " + syntax().quote(column);
    }

    /**
     * What keeps everybody else from a table while it is dropped, where the statement that drops it commits; null where no such
     * thing is known, and nothing is dropped then. Not asked where a rollback brings back what was dropped.
     *
     * @param seconds how long to wait for those who are there; null for as long as the database does
     */
    default @Nullable Exclusion exclusion(TableName table, @Nullable Long seconds) {
        return null;
    }

    /**
     * Statements that begin and end it. It ends with the connection, too.
     */
    record Exclusion(String begin, String end) {}

    /**
     * Why a table, or a column of it, cannot be dropped here so that nothing is lost and all of it can be made again, behind the
     * table's name; null where it can.
     */
    default @Nullable String obstacle(Connection connection, Table table) throws SQLException {
        return null;
    }

    /** Whether a view of a table keeps every column of it, also those that it does not read. */
    default boolean viewsKeepColumns() {
        return false;
    }

    /** What may use a table, or belongs to it: views, triggers, indexes, checks. */
    default List<Use> uses(Connection connection, Table table) throws SQLException {
        return List.of();
    }

    /**
     * Something that may use a table.
     *
     * @param kind in a word
     * @param own whether it belongs to the table and goes with it
     * @param text how it is defined, with the names of what it uses
     */
    record Use(Kind kind, String name, boolean own, String text) {

        /** What it is. */
        public enum Kind {
            VIEW,
            TRIGGER,
            INDEX,
            CHECK;

            /** In a word. */
            public String word() {
                return name().toLowerCase(Locale.ROOT);
            }
        }

        /** Whether a name stands in the definition. */
        public boolean mentions(String identifier) {
            return Pattern.compile(
                            "(?<![\\p{L}\\p{N}_$])" + Pattern.quote(identifier) + "(?![\\p{L}\\p{N}_$])",
                            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE)
                    .matcher(text)
                    .find();
        }
    }

    /** Reads such things: by a query of name, whether it is the table's own (1 or 0), and definition. */
    static List<Use> read(Connection connection, Use.Kind kind, String query, String... values) throws SQLException {
        List<Use> uses = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(query)) {
            for (int i = 0; i < values.length; i++) {
                statement.setString(i + 1, values[i]);
            }
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    String text = rows.getString(3);
                    uses.add(new Use(kind, rows.getString(1), rows.getInt(2) != 0, text == null ? "" : text));
                }
            }
        }
        return uses;
    }

    /** The statements that make a table again, with its keys, indexes and triggers; empty where nobody knows. */
    default List<String> definition(Connection connection, Table table) throws SQLException {
        return List.of();
    }

    /**
     * The statements that make a column again, so that what it held can be restored into it; what it was besides, as comments of
     * SQL.
     */
    default List<String> definition(Table table, Column column) {
        List<String> statements = new ArrayList<>();
        String alter = "ALTER TABLE " + syntax().table(table.name());
        String name = syntax().quote(column.name());
        statements.add(alter + " ADD COLUMN " + name + " " + column.type().declared());
        if (column.byDefault() != null) {
            statements.add(defaultOf(alter, name, column.byDefault()));
        }
        if (!column.nullable()) {
            statements.add("-- " + column.name() + " did not allow NULL");
        }
        return statements;
    }

    /** A statement that gives a column a default, or a comment that says what it was. */
    default String defaultOf(String alter, String column, String value) {
        return alter + " ALTER COLUMN " + column + " SET DEFAULT " + value;
    }

    /** The texts of one column of a query. */
    static List<String> texts(Connection connection, String query, String... values) throws SQLException {
        List<String> texts = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(query)) {
            for (int i = 0; i < values.length; i++) {
                statement.setString(i + 1, values[i]);
            }
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    texts.add(rows.getString(1));
                }
            }
        }
        return texts;
    }
}
