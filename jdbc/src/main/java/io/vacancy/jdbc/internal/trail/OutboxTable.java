// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.trail.OutboxEvent;
import java.time.Instant;
import java.util.List;
import java.util.stream.Collectors;

/** The events that wait to be passed on. */
public final class OutboxTable {

    private static final StatementContext READING = new StatementContext("reading the outbox", null, null);

    private final Session session;
    private final String table;

    public OutboxTable(Session session, OwnTables tables) {
        this.session = session;
        this.table = session.dialect().syntax().table(tables.table("outbox"));
    }

    public List<OutboxEvent> waiting(int most) {
        return session.query(
                Sql.of("SELECT event_no, id, made_at, content FROM " + table
                        + " WHERE passed_at IS NULL ORDER BY event_no"
                        + session.dialect().syntax().firstRows(most)),
                READING,
                row -> new OutboxEvent(
                        row.getLong(1), row.getString(2), Instant.parse(row.getString(3)), row.getString(4)));
    }

    public void passed(List<OutboxEvent> events, Instant now) {
        String numbers =
                events.stream().map(event -> Long.toString(event.number())).collect(Collectors.joining(", "));
        session.update(
                Sql.of("UPDATE " + table + " SET passed_at = ")
                        .bind(Times.written(now), OwnTables.TEXT)
                        .add(" WHERE event_no IN (" + numbers + ")"),
                new StatementContext("noting what was passed on", null, null));
    }
}
