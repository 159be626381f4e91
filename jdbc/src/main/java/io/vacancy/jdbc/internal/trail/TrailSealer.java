// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.ColumnType;
import io.vacancy.spi.HashChain;
import io.vacancy.trail.ChainHead;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** Seals entries that are committed, one sealing at a time. */
public final class TrailSealer {

    private static final StatementContext SEALING = new StatementContext("sealing the trail", null, null);
    private static final int AT_ONCE = 500;
    private static final ColumnType TEXT = OwnTables.TEXT;
    private static final List<KeyColumn> SEAL = List.of(
            new KeyColumn("place_no", OwnTables.NUMBER, false),
            new KeyColumn("entry_id", TEXT, false),
            new KeyColumn("digest", TEXT, false),
            new KeyColumn("sealed_at", TEXT, false));

    private final Session session;
    private final OwnTables tables;

    public TrailSealer(Session session, OwnTables tables) {
        this.session = session;
        this.tables = tables;
    }

    /**
     * How far a sealing got.
     *
     * @param more whether there may be more to seal
     */
    public record Step(ChainHead head, boolean more) {}

    private record Waiting(String entry, String content) {}

    /** Seals some; the lock on the head ends with the transaction. */
    public Step seal(HashChain chain, Instant now, ChainHead lowest) {
        String headTable = name("head");
        session.update(Sql.of("UPDATE " + headTable + " SET place_no = place_no WHERE one = 1"), SEALING);
        ChainHead head = session
                .query(
                        Sql.of("SELECT place_no, digest FROM " + headTable + " WHERE one = 1"),
                        SEALING,
                        row -> new ChainHead(row.getLong(1), row.getString(2)))
                .stream()
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "The head of the trail is gone, so nothing can be sealed after it.",
                        "Verify the trail to see how far it is intact."));
        wantsThrough(lowest, head);
        // Those that committed before come first, and of these the one that was written first.
        List<Waiting> waiting = session.query(
                Sql.of("SELECT t.id, t.content FROM " + name("unsealed") + " u JOIN " + name("trail")
                        + " t ON t.id = u.entry_id ORDER BY t.entry_no"
                        + session.dialect().syntax().firstRows(AT_ONCE)),
                SEALING,
                row -> new Waiting(row.getString(1), row.getString(2)));
        if (waiting.isEmpty()) {
            return new Step(head, false);
        }
        List<List<Object>> seals = new ArrayList<>();
        Sql sealed = Sql.of("DELETE FROM " + name("unsealed") + " WHERE entry_id IN (");
        for (Waiting entry : waiting) {
            head = chain.after(head, entry.content());
            sealed.add(seals.isEmpty() ? "" : ", ").bind(entry.entry(), TEXT);
            seals.add(List.of(head.position(), entry.entry(), head.digest(), Times.written(now)));
        }
        session.insert(name("seal"), SEAL, seals.iterator(), SEALING);
        session.update(sealed.add(")"), SEALING);
        session.update(
                Sql.of("UPDATE " + headTable + " SET place_no = " + head.position() + ", digest = ")
                        .bind(head.digest(), TEXT)
                        .add(" WHERE one = 1"),
                SEALING);
        return new Step(head, waiting.size() == AT_ONCE);
    }

    /** What is signed here must be a continuation of what was signed last. */
    private void wantsThrough(ChainHead lowest, ChainHead head) {
        if (lowest.equals(head) || lowest.position() == 0) {
            return;
        }
        List<String> there = session.query(
                Sql.of("SELECT digest FROM " + name("seal") + " WHERE place_no = " + lowest.position()),
                SEALING,
                row -> row.getString(1));
        HashChain.wantsContinuation(lowest, head, there.isEmpty() ? null : there.get(0));
    }

    private String name(String table) {
        return session.dialect().syntax().table(tables.table(table));
    }
}
