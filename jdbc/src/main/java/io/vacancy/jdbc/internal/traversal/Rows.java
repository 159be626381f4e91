// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.sql.ConditionSql;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads whole rows of a table, under the alias t. */
public final class Rows {

    private final Session session;
    private final Table table;
    private final String source;

    public Rows(Session session, Table table) {
        this.session = session;
        this.table = table;
        this.source = session.dialect().syntax().table(table.name());
    }

    /**
     * Reads rows that look like those of a table, from somewhere else.
     *
     * @param source what stands after FROM
     */
    public Rows(Session session, Table table, String source) {
        this.session = session;
        this.table = table;
        this.source = source;
    }

    /** Rows that a condition holds for, in key order. */
    public List<Row> all(Sql condition, StatementContext context) {
        return session.query(select(condition).add(inOrder()), context, this::row);
    }

    /** The first rows that a condition holds for, in key order. */
    public List<Row> first(int limit, Sql condition, StatementContext context) {
        return session.query(
                select(condition).add(inOrder()).add(session.dialect().syntax().firstRows(limit)), context, this::row);
    }

    /** Rows that a condition holds for, locked until the transaction ends. */
    List<Row> locked(Sql condition, StatementContext context) {
        return session.query(
                select(condition).add(inOrder()).add(session.dialect().locking().forUpdate()), context, this::row);
    }

    /** Hands over rows one after the other, in no particular order, however many they are. */
    public void each(Sql condition, StatementContext context, Consumer<Row> consumer) {
        session.forEach(select(condition), context, result -> consumer.accept(row(result)));
    }

    /** The same as a stream, which holds a statement until it is closed. */
    public Stream<Row> stream(Sql condition, StatementContext context) {
        return session.stream(select(condition), context, this::row);
    }

    /** How many rows a condition is true for; all of them without one. */
    public long count(@Nullable Condition which) {
        Sql count = Sql.of("SELECT COUNT(*) FROM " + source + " t");
        if (which != null) {
            count.add(" WHERE ").add(condition(which, "t"));
        }
        return session.number(count, StatementContext.of("counting", table.name()));
    }

    /** A condition on the row under an alias, never unknown. */
    Sql condition(Condition which, String alias) {
        return new ConditionSql(table, session.dialect().syntax(), ZonedDateTime.now(), alias)
                .write(new Condition.IsTrue(which));
    }

    private Sql select(Sql condition) {
        String columns = table.columns().stream()
                .map(column -> "t." + session.dialect().syntax().quote(column.name()))
                .collect(Collectors.joining(", "));
        return Sql.of("SELECT " + columns + " FROM " + source + " t WHERE ").add(condition);
    }

    private String inOrder() {
        if (!table.identity().exists()) {
            return "";
        }
        return " ORDER BY "
                + table.identity().columns().stream()
                        .map(name -> session.dialect()
                                .syntax()
                                .ordering(
                                        "t",
                                        new KeyColumn(
                                                name,
                                                table.has(name)
                                                        ? table.column(name).type()
                                                        : session.dialect()
                                                                .catalogue()
                                                                .rowIdType(),
                                                !table.has(name))))
                        .collect(Collectors.joining(", "));
    }

    private Row row(ResultSet result) throws SQLException {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        int index = 1;
        for (Column column : table.columns()) {
            values.put(column.name(), session.dialect().values().readDecoded(result, index++, column.type()));
        }
        return new Row(table.name(), values);
    }
}
