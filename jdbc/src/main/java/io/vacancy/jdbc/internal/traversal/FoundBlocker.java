// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Something that may stand in the way: child rows that refer to rows which would go, or rows that cannot come back.
 * The one place where its rows are counted and where it becomes what a preview tells.
 *
 * @param relation through which they do, or null where it is about the rows themselves
 * @param which which rows t of the table; there may be none
 * @param hidden whether they are outside the scope of who asks, who is not told more
 * @param permittedRules rules that a request may ask for instead
 */
public record FoundBlocker(
        TableName table,
        @Nullable Relation relation,
        Sql which,
        String reason,
        boolean hidden,
        List<String> permittedRules) {

    /** Why rows are left out because of something that nobody is told more of. */
    public static final String OUTSIDE_SCOPE = "something that is not shown to you";

    static FoundBlocker of(TableName table, Sql which, String reason) {
        return new FoundBlocker(table, null, which, reason, false, List.of());
    }

    static FoundBlocker through(Relation relation, Sql which, String reason) {
        return through(relation, which, reason, List.of());
    }

    static FoundBlocker through(Relation relation, Sql which, String reason, List<String> permittedRules) {
        return new FoundBlocker(relation.child(), relation, which, reason, false, permittedRules);
    }

    static FoundBlocker outsideScope(Relation relation, Sql which) {
        return new FoundBlocker(relation.child(), relation, which, OUTSIDE_SCOPE, true, List.of());
    }

    /** The relation's written form, or null. */
    @Nullable
    String name() {
        return relation == null ? null : relation.name();
    }

    /**
     * How many rows it is about, and a few of them.
     *
     * @param source where the rows are read, as it stands after FROM
     * @param readable whether they are whole rows
     */
    public RowSample rows(Session session, Table of, String source, boolean readable) {
        return rows(session, of, source, readable && !hidden, which);
    }

    private RowSample rows(Session session, Table of, String source, boolean shown, Sql condition) {
        StatementContext context = StatementContext.of("looking for blocking rows in", of.name(), name());
        long rows = session.number(
                Sql.of("SELECT COUNT(*) FROM " + source + " t WHERE ").add(condition), context);
        return new RowSample(
                rows,
                shown && rows > 0 ? new Rows(session, of, source).first(Samples.ROWS, condition, context) : List.of());
    }

    /**
     * What a preview tells of it; null where there are no such rows. Of rows that are outside the scope only that
     * something is there.
     *
     * @param inScope what holds for rows t that may be told, or null where all may
     * @param selected the table of the request
     */
    public @Nullable Blocker found(
            Session session, Table of, String source, boolean readable, @Nullable Sql inScope, TableName selected) {
        if (inScope == null && !hidden) {
            RowSample rows = rows(session, of, source, readable);
            return rows.rows() == 0 ? null : told(of, rows);
        }
        if (rows(session, of, source, false, which).rows() == 0) {
            return null;
        }
        if (inScope != null && !hidden) {
            Sql open = new Sql().add(which).add(" AND ").add(inScope);
            RowSample rows = rows(session, of, source, readable, open);
            if (rows.rows() > 0) {
                return told(of, rows);
            }
        }
        return Blocker.hidden(selected);
    }

    private Blocker told(Table of, RowSample rows) {
        return new Blocker(of.name(), name(), rows.rows(), reason, rows.sample(), permittedRules);
    }

    /** Why rows that it hit are left out. */
    public SkipReason skipReason(RowSample rows) {
        return new SkipReason(name(), rows.rows(), reason, rows.sample());
    }
}
