// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.json.JsonWriter;
import io.vacancy.trail.TrailEntry;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Writes entries of the trail, and events for other systems. */
public final class TrailWriter {

    private static final StatementContext WRITING = new StatementContext("writing the trail", null, null);
    private static final List<KeyColumn> ROW = List.of(
            new KeyColumn("entry_id", OwnTables.TEXT, false),
            new KeyColumn("table_name", OwnTables.TEXT, false),
            new KeyColumn("row_key", OwnTables.TEXT, true));

    private final Session session;
    private final OwnTables tables;

    public TrailWriter(Session session, OwnTables tables) {
        this.session = session;
        this.tables = tables;
    }

    /** @param outbox the source that an event names, or null where none is wanted */
    public void write(TrailEntry entry, @Nullable String outbox) {
        ReceiptId receipt = entry.receipt();
        insert(
                "trail",
                "id, made_at, kind, ending, actor, receipt_id, content",
                entry.id(),
                Times.written(entry.at()),
                entry.kind().word(),
                entry.ending().word(),
                entry.by(),
                receipt == null ? null : receipt.value(),
                JsonWriter.entry(entry));
        session.insert(
                name("trail_row"),
                ROW,
                TrailRow.of(entry).stream()
                        .map(row -> Arrays.asList(entry.id(), row.table(), row.key()))
                        .iterator(),
                WRITING);
        insert("unsealed", "entry_id", entry.id());
        if (outbox != null) {
            insert(
                    "outbox",
                    "id, made_at, content",
                    entry.id(),
                    Times.written(entry.at()),
                    JsonWriter.event(entry, outbox));
        }
    }

    private void insert(String table, String columns, @Nullable String... values) {
        Sql insert = Sql.of("INSERT INTO " + name(table) + " (" + columns + ") VALUES (");
        for (int i = 0; i < values.length; i++) {
            insert.add(i == 0 ? "" : ", ");
            String value = values[i];
            if (value == null) {
                insert.add("NULL");
            } else {
                insert.bind(value, OwnTables.TEXT);
            }
        }
        session.ahead(insert.add(")"), WRITING);
    }

    private String name(String table) {
        return session.dialect().syntax().table(tables.table(table));
    }
}
