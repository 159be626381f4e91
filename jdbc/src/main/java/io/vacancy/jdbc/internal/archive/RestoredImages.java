// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.spi.Sql;
import java.util.List;

/** Notes in the archive what is back, or cannot come back any more, so that nobody brings it back again. */
final class RestoredImages {

    private final Session session;
    private final OwnTables tables;
    private final List<Line> lines;

    /** @param lines all that images may have been taken of */
    RestoredImages(Session session, OwnTables tables, List<Line> lines) {
        this.session = session;
        this.tables = tables;
        this.lines = lines;
    }

    private record Back(long receipt, int line, long images) {}

    /** Notes it of each image; where all of a line are back, on the line alone. */
    void note(StagingTable stage, long number) {
        List<Back> back = session.query(
                Sql.of("SELECT " + StagingTable.RECEIPT + ", " + StagingTable.LINE + ", COUNT(*) FROM " + stage.name()
                        + " GROUP BY " + StagingTable.RECEIPT + ", " + StagingTable.LINE),
                stage.context("counting images of"),
                row -> new Back(row.getLong(1), row.getInt(2), row.getLong(3)));
        for (Back each : back) {
            String which = " WHERE receipt_no = " + each.receipt() + " AND line = " + each.line();
            long left = lines.stream()
                    .filter(line -> line.receiptNo() == each.receipt()
                            && line.archived().line() == each.line())
                    .mapToLong(line -> line.archived().left())
                    .sum();
            if (left != each.images()) {
                session.update(
                        Sql.of("UPDATE " + session.dialect().syntax().table(tables.table("image")) + " SET back_no = "
                                + number
                                + which
                                + " AND row_no IN (SELECT " + StagingTable.IMAGE + " FROM " + stage.name() + " WHERE "
                                + StagingTable.RECEIPT + " = " + each.receipt() + " AND " + StagingTable.LINE + " = "
                                + each.line()
                                + ")"),
                        stage.context("noting what is back of"));
            }
            session.update(
                    Sql.of("UPDATE " + session.dialect().syntax().table(tables.table("line"))
                            + " SET rows_left = rows_left - " + each.images() + which),
                    stage.context("noting what is back of"));
        }
    }
}
