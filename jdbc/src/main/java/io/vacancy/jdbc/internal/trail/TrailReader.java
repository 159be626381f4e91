// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.json.JsonReader;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads entries of the trail. */
public final class TrailReader {

    private static final StatementContext READING = new StatementContext("reading the trail", null, null);

    private final Session session;
    private final OwnTables tables;

    public TrailReader(Session session, OwnTables tables) {
        this.session = session;
        this.tables = tables;
    }

    /** Newest first, in the order in which they were written. */
    public Stream<TrailEntry> stream(HistoryQuery query) {
        Sql select = Sql.of("SELECT t.content FROM " + name("trail") + " t WHERE 1 = 1");
        String table = query.table();
        String key = query.key();
        if (table != null && key == null) {
            among(select.add(" AND "), new TrailRow(table, null));
        } else if (table != null && key != null) {
            among(select.add(" AND "), new TrailRow(table, TrailRow.shortened(key)));
        }
        String receipt = query.receipt();
        if (receipt != null) {
            select.add(" AND (t.receipt_id = ").bind(receipt, OwnTables.TEXT).add(" OR ");
            among(select, TrailRow.ofReceipt(receipt)).add(")");
        }
        text(select, "t.actor = ", query.by());
        text(select, "t.kind = ", query.kind() == null ? null : query.kind().word());
        text(
                select,
                "t.ending = ",
                query.ending() == null ? null : query.ending().word());
        time(select, "t.made_at >= ", query.since());
        time(select, "t.made_at < ", query.before());
        String after = query.after();
        if (after != null) {
            select.add(" AND t.entry_no < " + number(after));
        }
        return session.stream(select.add(" ORDER BY t.entry_no DESC"), READING, row -> row.getString(1))
                .map(JsonReader::entry);
    }

    private long number(String entry) {
        Sql select = Sql.of("SELECT t.entry_no FROM " + name("trail") + " t WHERE t.id = ")
                .bind(entry, OwnTables.TEXT);
        return session.query(select, READING, row -> row.getLong(1)).stream()
                .findFirst()
                .orElseThrow(() -> new MisuseException("The trail has no entry " + entry + "."));
    }

    private Sql among(Sql select, TrailRow row) {
        String key = row.key();
        select.add("t.id IN (SELECT r.entry_id FROM " + name("trail_row") + " r WHERE r.table_name = ")
                .bind(row.table(), OwnTables.TEXT)
                .add(" AND r.row_key ");
        return (key == null ? select.add("IS NULL") : select.add("= ").bind(key, OwnTables.TEXT)).add(")");
    }

    private static void text(Sql sql, String which, @Nullable String value) {
        if (value != null) {
            sql.add(" AND " + which).bind(value, OwnTables.TEXT);
        }
    }

    private static void time(Sql sql, String which, @Nullable Instant value) {
        text(sql, which, value == null ? null : Times.written(value));
    }

    private String name(String table) {
        return session.dialect().syntax().table(tables.table(table));
    }
}
