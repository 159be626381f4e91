// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import org.jspecify.annotations.Nullable;

/** Removes images for good, and has their lines say how many are left. */
final class ImageRemoval {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;

    ImageRemoval(Session session, OwnTables tables) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
    }

    /**
     * Removes images of a line.
     *
     * @param stage those that are meant; null for all of the line
     * @return how many
     */
    long remove(Line line, @Nullable StagingTable stage) {
        StatementContext context = context(line);
        String which = where(line);
        String some =
                stage == null ? "" : " AND row_no IN (SELECT " + StagingTable.IMAGE + " FROM " + stage.name() + ")";
        String image = dialect.syntax().table(tables.table("image"));
        // A line that is back as a whole says so itself; else its images do.
        long restorable = line.archived().left() == 0 || line.archived().there() == 0
                ? 0
                : session.number(
                        Sql.of("SELECT COUNT(*) FROM " + image + which + " AND back_no IS NULL" + some), context);
        long removed = session.update(Sql.of("DELETE FROM " + image + which + some), context);
        session.update(
                Sql.of("UPDATE " + dialect.syntax().table(tables.table("line")) + " SET rows_there = rows_there - "
                        + removed + ", rows_left = rows_left - " + restorable + which),
                context);
        return removed;
    }

    /** Removes a line of which no image is left, as if there had been none. */
    void forget(Line line) {
        session.update(
                Sql.of("DELETE FROM " + dialect.syntax().table(tables.table("line")) + where(line)), context(line));
    }

    /** Has a line say that no more was archived than is there. */
    void settle(Line line) {
        session.update(
                Sql.of("UPDATE " + dialect.syntax().table(tables.table("line")) + " SET rows_archived = rows_there"
                        + where(line)),
                context(line));
    }

    private static String where(Line line) {
        return " WHERE receipt_no = " + line.receiptNo() + " AND line = "
                + line.archived().line();
    }

    private static StatementContext context(Line line) {
        return StatementContext.of("removing images of", line.archived().table());
    }
}
