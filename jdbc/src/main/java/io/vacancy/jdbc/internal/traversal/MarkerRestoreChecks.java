// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.sql.Referring;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.MarkerPredicates;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;

/** What may stand in the way of rows that come back. */
final class MarkerRestoreChecks {

    private final RelationTraversal traversal;
    private final Session session;
    private final Consumer<FoundBlocker> found;

    MarkerRestoreChecks(RelationTraversal traversal, Consumer<FoundBlocker> found) {
        this.traversal = traversal;
        this.session = traversal.session();
        this.found = found;
    }

    void look() {
        for (TableName name : traversal.program().tables()) {
            KeySet rows = traversal.rowsToDelete(name);
            if (rows.size() > 0) {
                traversal.schema().relationsFrom(name).forEach(relation -> parent(relation, rows));
                MarkerPredicates marked = traversal.plan().marked().get(name);
                for (List<String> unique : marked == null ? List.<List<String>>of() : marked.unique()) {
                    taken(rows, unique);
                }
            }
        }
    }

    /** An active row does not depend on one that is gone, or marked and not coming back. */
    private void parent(Relation relation, KeySet rows) {
        TableName parent = relation.parent();
        MarkerPredicates marked = traversal.plan().marked().get(parent);
        String join = session.dialect().syntax().joined(relation, "p", "t");
        String exists = "EXISTS (SELECT 1 FROM " + session.dialect().syntax().table(parent) + " p WHERE " + join;
        if (marked != null) {
            Sql still = rows.contains("t")
                    .add(Referring.andKind(relation, session.dialect().syntax(), "t"))
                    .add(" AND " + exists + " AND ")
                    .add(traversal.terms().condition(parent, marked.deleted(), "p"));
            if (traversal.program().tables().contains(parent)) {
                still.add(" AND NOT ").add(traversal.rowsToDelete(parent).contains("p"));
            }
            found.accept(FoundBlocker.through(
                    relation, still.add(")"), "the " + parent + " they refer to is still marked as deleted"));
        }
        if (!relation.enforced()) {
            found.accept(FoundBlocker.through(
                    relation,
                    rows.contains("t")
                            .add(" AND ")
                            .add(Referring.refers(relation, session.dialect().syntax(), "t"))
                            .add(" AND NOT " + exists + ")"),
                    "the " + parent + " they refer to is gone"));
        }
    }

    /** Another row, which is active or comes back as well, has the same values. */
    private void taken(KeySet rows, List<String> unique) {
        Table table = rows.table();
        MarkerPredicates marked = traversal.plan().marked().get(table.name());
        if (marked == null) {
            return;
        }
        String same = unique.stream()
                .map(column -> "o." + session.dialect().syntax().quote(column) + " = t."
                        + session.dialect().syntax().quote(column))
                .collect(Collectors.joining(" AND "));
        List<String> itself = new ArrayList<>();
        for (KeyColumn column : rows.identity()) {
            itself.add(session.dialect().syntax().column("o", column) + " = "
                    + session.dialect().syntax().column("t", column));
        }
        Sql taken = rows.contains("t")
                .add(" AND 0 < (SELECT COUNT(*) FROM "
                        + session.dialect().syntax().table(table.name()) + " o WHERE " + same + " AND NOT ("
                        + String.join(" AND ", itself) + ") AND (")
                .add(traversal.terms().condition(table.name(), marked.active(), "o"))
                .add(" OR ")
                .add(rows.contains("o"))
                .add("))");
        found.accept(FoundBlocker.of(
                table.name(),
                taken,
                "another row that is active or is restored has the same " + String.join(", ", unique)));
    }
}
