// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Holds, as the database has them. */
final class Holds {

    private static final StatementContext HOLDS = new StatementContext("reading the holds", null, null);

    private final Session session;
    private final String table;

    Holds(Session session, OwnTables tables) {
        this.session = session;
        Dialect dialect = session.dialect();
        this.table = dialect.syntax().table(tables.table("hold"));
    }

    /** Those in force, oldest first. */
    List<Hold> inForce() {
        return session.query(
                Sql.of("SELECT hold_no, receipt_id, table_name, row_key, actor, because, since_at FROM " + table
                        + " WHERE released_at IS NULL ORDER BY hold_no"),
                HOLDS,
                row -> new Hold(
                        row.getLong(1),
                        ReceiptId.ofNullable(row.getString(2)),
                        row.getString(3),
                        row.getString(4) == null ? List.of() : ArchivedColumns.texts(row.getString(4)),
                        row.getString(5),
                        row.getString(6),
                        Times.read(row.getString(7))));
    }

    Hold place(Hold hold, Instant now) {
        Sql insert = Sql.of(
                "INSERT INTO " + table + " (receipt_id, table_name, row_key, actor, because, since_at) VALUES (");
        ReceiptId receipt = hold.receipt();
        optional(insert, receipt == null ? null : receipt.value()).add(", ");
        optional(insert, hold.table()).add(", ");
        optional(insert, hold.key().isEmpty() ? null : ArchivedColumns.json(hold.key()))
                .add(", ");
        insert.bind(hold.by(), OwnTables.TEXT)
                .add(", ")
                .bind(hold.because(), OwnTables.TEXT)
                .add(", ")
                .bind(Times.written(now), OwnTables.TEXT)
                .add(")");
        session.update(insert, new StatementContext("placing a hold", null, null));
        List<Hold> all = inForce();
        return all.get(all.size() - 1);
    }

    boolean release(long number, String by, Instant now) {
        Sql update = Sql.of("UPDATE " + table + " SET released_by = ")
                .bind(by, OwnTables.TEXT)
                .add(", released_at = ")
                .bind(Times.written(now), OwnTables.TEXT)
                .add(" WHERE released_at IS NULL AND hold_no = " + number);
        return session.update(update, new StatementContext("releasing a hold", null, null)) == 1;
    }

    private static Sql optional(Sql sql, @Nullable String text) {
        return text == null ? sql.add("NULL") : sql.bind(text, OwnTables.TEXT);
    }
}
