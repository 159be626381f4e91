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

    /** Why something outside the scope is in the way; nothing else of it is told. */
    public static final String OUTSIDE_SCOPE = "rows outside the scope of who asks";

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

    /** How many rows it is about, and a few of them, unless they are hidden. */
    public RowSample rows(Session session, Table of, String source, boolean readable) {
        StatementContext context = StatementContext.of("looking for blocking rows in", of.name(), name());
        long rows = session.number(
                Sql.of("SELECT COUNT(*) FROM " + source + " t WHERE ").add(which), context);
        boolean shown = rows > 0 && readable && !hidden;
        return new RowSample(
                rows, shown ? new Rows(session, of, source).first(Samples.ROWS, which, context) : List.of());
    }

    /** What a preview tells of it; null where there are no such rows. */
    public @Nullable Blocker found(Session session, Table of, String source, boolean readable) {
        RowSample rows = rows(session, of, source, readable);
        return rows.rows() == 0
                ? null
                : new Blocker(of.name(), name(), hidden ? 0 : rows.rows(), reason, rows.sample(), permittedRules);
    }

    /** Why rows that it hit are left out. */
    public SkipReason skipReason(RowSample rows) {
        return new SkipReason(name(), rows.rows(), reason, rows.sample());
    }
}
