// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.sql.Referring;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.RowSample;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import org.jspecify.annotations.Nullable;

/** Child rows whose parent is missing. */
public final class Orphans {

    private Orphans() {}

    /**
     * Whether row t refers to a parent that is not there; one NULL in its columns refers to nothing. Of a list, whether any of
     * its keys does.
     */
    static Sql condition(Relation relation, Dialect dialect) {
        if (relation.list()) {
            return Referring.refers(relation, dialect.syntax(), "t")
                    .add(" AND " + dialect.syntax().namesMissing(relation, "t"));
        }
        return Referring.refers(relation, dialect.syntax(), "t")
                .add(" AND NOT EXISTS (SELECT 1 FROM " + dialect.syntax().table(relation.parent()) + " o WHERE "
                        + dialect.syntax().joined(relation, "o", "t") + ")");
    }

    /** How many child rows refer to parents for which a condition holds. */
    public static long children(
            Relation relation, Schema schema, Session session, @Nullable Condition child, Condition parent) {
        Dialect dialect = session.dialect();
        Sql count = Sql.of("SELECT COUNT(*) FROM " + dialect.syntax().table(relation.child())
                        + " t WHERE EXISTS (SELECT 1 FROM " + dialect.syntax().table(relation.parent()) + " p WHERE "
                        + dialect.syntax().joined(relation, "p", "t") + " AND ")
                .add(new Rows(session, schema.table(relation.parent())).condition(parent, "p"))
                .add(")")
                .add(Referring.andKind(relation, dialect.syntax(), "t"));
        if (child != null) {
            count.add(" AND ").add(new Rows(session, schema.table(relation.child())).condition(child, "t"));
        }
        return session.number(count, StatementContext.of("counting", relation.child(), relation.name()));
    }

    /**
     * How many there are, and a few of them.
     *
     * @param scope what holds on every child row that may be seen, or null
     */
    public static RowSample of(Relation relation, Schema schema, Session session, @Nullable Condition scope) {
        Table child = schema.table(relation.child());
        Sql which = condition(relation, session.dialect());
        if (scope != null) {
            which.add(" AND ").add(new Rows(session, child).condition(scope, "t"));
        }
        StatementContext context = StatementContext.of("looking for orphans in", child.name(), relation.name());
        Sql count = Sql.of("SELECT COUNT(*) FROM " + session.dialect().syntax().table(child.name()) + " t WHERE ")
                .add(which);
        long rows = session.number(count, context);
        return rows == 0
                ? RowSample.NONE
                : new RowSample(rows, new Rows(session, child).first(Samples.ROWS, which, context));
    }
}
