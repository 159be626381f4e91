// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.TextDigest;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.json.JsonReader;
import io.vacancy.spi.SealedEntry;
import io.vacancy.spi.TrailEnds;
import io.vacancy.trail.ArchiveDigests;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.TrailEntry;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads the chain, and what is outside of it. */
public final class ChainReader {

    private static final StatementContext READING = new StatementContext("reading the seals of the trail", null, null);
    private static final int AT_ONCE = 500;

    private final Session session;
    private final OwnTables tables;

    public ChainReader(Session session, OwnTables tables) {
        this.session = session;
        this.tables = tables;
    }

    /** Where the columns beside an entry have its receipt. */
    private static final int RECEIPT = 5;

    /** A seal with what is in the columns beside its entry. */
    private record Sealed(
            ChainHead seal, String entry, @Nullable String content, List<@Nullable String> columns) {}

    /** The chain in the order of its positions, a few hundred links in memory at a time. */
    public Stream<SealedEntry> stream() {
        return Stream.iterate(after(0), some -> !some.isEmpty(), some -> after(last(some)))
                .flatMap(some -> linked(some).stream());
    }

    private static long last(List<Sealed> some) {
        return some.get(some.size() - 1).seal().position();
    }

    private List<Sealed> after(long position) {
        return session.query(
                Sql.of("SELECT s.place_no, s.digest, s.entry_id, t.content, t.id, t.made_at, t.kind, t.ending, t.actor,"
                        + " t.receipt_id FROM " + name("seal") + " s LEFT JOIN " + name("trail")
                        + " t ON t.id = s.entry_id WHERE s.place_no > " + position + " ORDER BY s.place_no"
                        + session.dialect().syntax().firstRows(AT_ONCE)),
                READING,
                ChainReader::sealed);
    }

    private static Sealed sealed(ResultSet row) throws SQLException {
        String digest = row.getString(2);
        // A digest that cannot be one is as wrong as any other that is not the right one.
        boolean possible = digest.matches("[0-9a-f]{64}");
        return new Sealed(
                new ChainHead(row.getLong(1), possible ? digest : ChainHead.NONE.digest()),
                row.getString(3),
                row.getString(4),
                Arrays.asList(
                        row.getString(5),
                        row.getString(6),
                        row.getString(7),
                        row.getString(8),
                        row.getString(9),
                        row.getString(10)));
    }

    private List<SealedEntry> linked(List<Sealed> some) {
        Map<String, Set<TrailRow>> rows = new HashMap<>();
        session.forEach(
                Sql.of("SELECT r.entry_id, r.table_name, r.row_key FROM " + name("trail_row") + " r JOIN "
                        + name("seal") + " s ON s.entry_id = r.entry_id WHERE s.place_no >= "
                        + some.get(0).seal().position() + " AND s.place_no <= " + last(some)),
                READING,
                row -> rows.computeIfAbsent(row.getString(1), entry -> new HashSet<>())
                        .add(new TrailRow(row.getString(2), row.getString(3))));
        Map<String, Map<Integer, String>> receipts = receipts(some);
        return some.stream()
                .map(given -> new SealedEntry(
                        given.seal(),
                        given.entry(),
                        given.content(),
                        astray(
                                given,
                                rows.getOrDefault(given.entry(), Set.of()),
                                receipts.getOrDefault(
                                        String.valueOf(given.columns().get(RECEIPT)), Map.of()))))
                .toList();
    }

    /**
     * The digests of the documents of receipts as they are now, by receipt and part: each once, since many entries can be
     * parts of one.
     */
    private Map<String, Map<Integer, String>> receipts(List<Sealed> some) {
        Map<String, Map<Integer, String>> receipts = new HashMap<>();
        session.forEach(
                Sql.of("SELECT r.id, p.part, p.content FROM " + name("receipt") + " r JOIN " + name("part")
                        + " p ON p.receipt_no = r.receipt_no WHERE r.id IN (SELECT t.receipt_id FROM " + name("seal")
                        + " s JOIN " + name("trail") + " t ON t.id = s.entry_id WHERE s.place_no >= "
                        + some.get(0).seal().position() + " AND s.place_no <= " + last(some) + ")"),
                READING,
                row -> receipts.computeIfAbsent(row.getString(1), receipt -> new HashMap<>())
                        .put(row.getInt(2), TextDigest.of(row.getString(3))));
        return receipts;
    }

    /** What an entry is found by, and its receipt, are not sealed, and must be what the entry says. */
    private static @Nullable String astray(Sealed given, Set<TrailRow> rows, Map<Integer, String> receipts) {
        if (given.content() == null) {
            return null;
        }
        TrailEntry entry;
        try {
            entry = JsonReader.entry(given.content());
        } catch (VacancyException unreadable) {
            return "The entry cannot be read: " + unreadable.getMessage();
        }
        ReceiptId receipt = entry.receipt();
        List<@Nullable String> told = Arrays.asList(
                entry.id(),
                Times.written(entry.at()),
                entry.kind().word(),
                entry.ending().word(),
                entry.by(),
                receipt == null ? null : receipt.value());
        List<String> names = List.of("id", "made_at", "kind", "ending", "actor", "receipt_id");
        for (int i = 0; i < names.size(); i++) {
            if (!Objects.equals(told.get(i), given.columns().get(i))) {
                return "Column " + names.get(i) + " says " + given.columns().get(i) + ", and the entry says "
                        + told.get(i) + ".";
            }
        }
        if (!rows.equals(TrailRow.of(entry))) {
            return "The tables and keys by which the entry is found are not those in it.";
        }
        ArchiveDigests digests = entry.digests();
        String document = receipts.get(entry.part());
        if (digests == null || digests.receipt().equals(document)) {
            return null;
        }
        return document == null
                ? "The receipt that belongs to the entry is gone."
                : "The receipt that belongs to the entry was changed.";
    }

    /** What there is at the end of the chain and outside of it. */
    public TrailEnds ends() {
        List<ChainHead> heads = session.query(
                Sql.of("SELECT place_no, digest FROM " + name("head") + " WHERE one = 1"),
                READING,
                row -> row.getString(2).matches("[0-9a-f]{64}")
                        ? new ChainHead(row.getLong(1), row.getString(2))
                        : ChainHead.NONE);
        String unsealed = name("unsealed");
        String trail = name("trail");
        long waiting = session.number(Sql.of("SELECT COUNT(*) FROM " + unsealed), READING);
        List<@Nullable String> oldest = session.query(
                Sql.of("SELECT MIN(t.made_at) FROM " + unsealed + " u JOIN " + trail + " t ON t.id = u.entry_id"),
                READING,
                row -> row.getString(1));
        String first = session.dialect().syntax().firstRows(1);
        return new TrailEnds(
                heads.isEmpty() ? null : heads.get(0),
                waiting,
                Times.read(oldest.get(0)),
                one("SELECT t.id FROM " + trail + " t WHERE NOT EXISTS (SELECT 1 FROM " + name("seal")
                        + " s WHERE s.entry_id = t.id) AND NOT EXISTS (SELECT 1 FROM " + unsealed
                        + " u WHERE u.entry_id = t.id) ORDER BY t.entry_no" + first),
                one("SELECT u.entry_id FROM " + unsealed + " u WHERE NOT EXISTS (SELECT 1 FROM " + trail
                        + " t WHERE t.id = u.entry_id)" + first));
    }

    private @Nullable String one(String query) {
        List<String> found = session.query(Sql.of(query), READING, row -> row.getString(1));
        return found.isEmpty() ? null : found.get(0);
    }

    private String name(String table) {
        return session.dialect().syntax().table(tables.table(table));
    }
}
