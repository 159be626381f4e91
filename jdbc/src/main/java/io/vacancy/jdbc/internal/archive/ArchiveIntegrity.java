// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.json.JsonReader;
import io.vacancy.preview.Blocker;
import io.vacancy.trail.ArchiveDigests;
import io.vacancy.trail.TrailEntry;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * Holds images that are to come back against their digests in the trail. That they are the ones that were archived is as
 * certain as the trail is, which verifying it tells.
 */
final class ArchiveIntegrity {

    private static final StatementContext CHECKING = new StatementContext("checking images", null, null);
    private static final int AT_ONCE = 100;

    private final Session session;
    private final OwnTables tables;
    private final List<Blocker> changed = new ArrayList<>();
    private final List<String> warnings = new ArrayList<>();

    ArchiveIntegrity(Session session, OwnTables tables) {
        this.session = session;
        this.tables = tables;
    }

    /** A line of a receipt. */
    record Place(long receiptNo, int line) {

        static Place of(Line line) {
            return new Place(line.receiptNo(), line.archived().line());
        }
    }

    private record Part(ReceiptId receipt, int part) {

        static Part of(ArchivedRows line) {
            return new Part(line.receipt(), line.part());
        }
    }

    /** Everything that is left of some lines. */
    static Map<Place, Long> whole(Collection<Line> lines) {
        Map<Place, Long> used = new HashMap<>();
        lines.forEach(line -> used.put(Place.of(line), line.archived().left()));
        return used;
    }

    /** How many images stages have, by the line that they are of. */
    static Map<Place, Long> used(Collection<StagingTable> stages, Session session) {
        Map<Place, Long> used = new HashMap<>();
        for (StagingTable stage : stages) {
            session.forEach(
                    Sql.of("SELECT " + StagingTable.RECEIPT + ", " + StagingTable.LINE + ", COUNT(*) FROM "
                            + stage.name() + " GROUP BY " + StagingTable.RECEIPT + ", " + StagingTable.LINE),
                    CHECKING,
                    row -> used.merge(new Place(row.getLong(1), row.getInt(2)), row.getLong(3), Long::sum));
        }
        return used;
    }

    /**
     * @param lines all that images may have been taken of
     * @param used how many are meant, by line
     */
    void check(Collection<Line> lines, Map<Place, Long> used) {
        List<Line> meant =
                lines.stream().filter(line -> used.containsKey(Place.of(line))).toList();
        for (int i = 0; i < meant.size(); i += AT_ONCE) {
            check(meant.subList(i, Math.min(i + AT_ONCE, meant.size())), used);
        }
    }

    private void check(List<Line> lines, Map<Place, Long> used) {
        Map<Part, Map<Integer, ArchiveDigests.Images>> told = told(lines);
        List<Line> known = lines.stream()
                .filter(line -> told.containsKey(Part.of(line.archived())))
                .toList();
        List<ArchiveDigests.Images> there = new ImageDigests(session, tables)
                .of(known.stream()
                        .map(line -> new ImageDigests.Line(
                                line.receiptNo(),
                                line.archived().line(),
                                line.archived().table().toString(),
                                line.archived().columns()))
                        .toList());
        for (int i = 0; i < known.size(); i++) {
            ArchivedRows line = known.get(i).archived();
            ArchiveDigests.Images then =
                    told.getOrDefault(Part.of(line), Map.of()).get(line.line());
            ArchiveDigests.Images now = there.get(i);
            if (!now.equals(then)) {
                long rows = used.getOrDefault(Place.of(known.get(i)), 0L);
                differs(line, then != null && now.rows() < then.rows() && purged(line), rows);
            }
        }
    }

    private void differs(ArchivedRows line, boolean purged, long rows) {
        if (purged) {
            warnings.add("Some archived rows of " + line.table() + " were purged from receipt " + line.receipt()
                    + " since, so nothing tells whether the others are as they were archived.");
            return;
        }
        changed.add(new Blocker(
                line.table(),
                line.relation(),
                rows,
                "what is archived of " + line.table() + " under receipt " + line.receipt()
                        + " is not what the audit history has the digest of: somebody changed the archive",
                List.of(),
                List.of()));
    }

    /** The digests by line, of the parts of receipts that have any. */
    private Map<Part, Map<Integer, ArchiveDigests.Images>> told(List<Line> lines) {
        Map<Part, Map<Integer, ArchiveDigests.Images>> told = new LinkedHashMap<>();
        Sql select = Sql.of("SELECT t.content FROM " + name("trail") + " t WHERE t.receipt_id IN (");
        ids(select, lines);
        for (String content : session.query(select.add(")"), CHECKING, row -> row.getString(1))) {
            TrailEntry entry = JsonReader.entry(content);
            ReceiptId receipt = entry.receipt();
            ArchiveDigests digests = entry.digests();
            if (receipt != null && digests != null && !digests.images().isEmpty()) {
                Map<Integer, ArchiveDigests.Images> byLine =
                        told.computeIfAbsent(new Part(receipt, entry.part()), id -> new HashMap<>());
                digests.images().forEach(images -> byLine.put(images.line(), images));
            }
        }
        return told;
    }

    private static void ids(Sql sql, List<Line> lines) {
        int place = 0;
        for (String id : new TreeSet<>(
                lines.stream().map(line -> line.archived().receipt().value()).toList())) {
            sql.add(place++ == 0 ? "" : ", ").bind(id, OwnTables.TEXT);
        }
    }

    /** Whether the trail tells that archived rows of a receipt, or any of the table, were purged. */
    private boolean purged(ArchivedRows line) {
        Sql select = Sql.of("SELECT COUNT(*) FROM " + name("trail") + " t JOIN " + name("trail_row")
                        + " r ON r.entry_id = t.id WHERE t.kind = 'purge' AND t.ending = 'done' AND ((r.table_name = ''"
                        + " AND r.row_key = ")
                .bind(line.receipt().value(), OwnTables.TEXT)
                .add(") OR (r.row_key IS NULL AND r.table_name = ")
                .bind(line.table().toString(), OwnTables.TEXT)
                .add("))");
        return session.number(select, CHECKING) > 0;
    }

    private String name(String table) {
        return session.dialect().syntax().table(tables.table(table));
    }

    /** What must not come back. */
    List<Blocker> changed() {
        return changed;
    }

    /** What nothing is known of any more. */
    List<String> warnings() {
        return warnings;
    }
}
