// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.sql.Referring;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.internal.traversal.FoundBlocker;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.MarkerPredicates;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Everything that may stand in the way of rows that come back, and of links that are put back. */
final class RestoreBlockerQuery {

    private final Schema schema;
    private final Dialect dialect;
    private final ConditionCompiler terms;
    private final Map<TableName, MarkerPredicates> marked;
    private final Map<TableName, StagingTable> rows;
    private final List<RestoreBlocker> found = new ArrayList<>();

    RestoreBlockerQuery(
            Schema schema,
            Dialect dialect,
            ConditionCompiler terms,
            Map<TableName, MarkerPredicates> marked,
            Map<TableName, StagingTable> rows) {
        this.schema = schema;
        this.dialect = dialect;
        this.terms = terms;
        this.marked = marked;
        this.rows = rows;
    }

    /** @param links the stages of links, by relation */
    List<RestoreBlocker> of(Collection<ColumnRestore> links) {
        found.clear();
        for (StagingTable stage : rows.values()) {
            losses(stage);
            demanded(stage);
            scope(stage);
            stage.table().keys().forEach(key -> taken(stage, key));
            MarkerPredicates marker = marked.get(stage.table().name());
            if (marker != null) {
                marker.unique().forEach(unique -> takenByActive(stage, marker, unique));
            }
            schema.relationsFrom(stage.table().name()).forEach(relation -> parent(stage, relation));
        }
        links.forEach(this::changed);
        return found;
    }

    private void add(StagingTable stage, @Nullable Relation relation, Sql which, String reason) {
        add(stage, relation, which, reason, false);
    }

    private void add(StagingTable stage, @Nullable Relation relation, Sql which, String reason, boolean hidden) {
        TableName table = stage.table().name();
        found.add(new RestoreBlocker(stage, new FoundBlocker(table, relation, which, reason, hidden, List.of())));
    }

    private void losses(StagingTable stage) {
        for (int i = 0; i < stage.losses().size(); i++) {
            add(
                    stage,
                    null,
                    Sql.of("t." + StagingTable.LOST + " = " + (i + 1)),
                    stage.losses().get(i));
        }
    }

    /** A column that wants a value, and the image has none for it. */
    private void demanded(StagingTable stage) {
        for (Column column : stage.table().columns()) {
            if (column.nullable() || column.generated()) {
                continue;
            }
            for (List<ArchivedRows> layout : stage.layouts()) {
                boolean archived = layout.get(0).columns().stream()
                        .anyMatch(old -> old.name().equals(column.name()));
                if (!archived && (column.byDefault() != null || column.identity())) {
                    continue;
                }
                String lines = layout.stream()
                        .map(line -> "t." + StagingTable.LINE + " = " + line.line())
                        .collect(Collectors.joining(" OR ", "(", ")"));
                add(
                        stage,
                        null,
                        Sql.of(lines + " AND t." + StagingTable.LOST + " = 0 AND t."
                                + dialect.syntax().quote(column.name()) + " IS NULL"),
                        "column " + column.name() + " requires a value now, and they have none");
            }
        }
    }

    private void scope(StagingTable stage) {
        Sql inside = terms.inScopeComingBack(stage.table().name());
        if (inside != null) {
            add(stage, null, Sql.of("NOT ").add(inside), FoundBlocker.OUTSIDE_SCOPE, true);
        }
    }

    private void taken(StagingTable stage, List<String> key) {
        String same = equal("o", "t", key, key);
        Sql there = Sql.of(
                "EXISTS (SELECT 1 FROM " + dialect.syntax().table(stage.table().name()) + " o WHERE " + same);
        taken(stage, there, "a row that is there has the same " + String.join(", ", key));
        boolean otherKey = !key.equals(stage.key());
        boolean several = stage.layouts().size() > 1 || stage.layouts().stream().anyMatch(lines -> lines.size() > 1);
        if (otherKey && several) {
            add(
                    stage,
                    null,
                    Sql.of("EXISTS (SELECT 1 FROM " + stage.name() + " o WHERE " + same + " AND o." + StagingTable.IMAGE
                            + " > t." + StagingTable.IMAGE + ")"),
                    "a row that was deleted later and is restored too has the same " + String.join(", ", key));
        }
    }

    private void takenByActive(StagingTable stage, MarkerPredicates marker, List<String> unique) {
        TableName table = stage.table().name();
        Sql there = terms.condition(table, marker.active(), "t")
                .add(" AND EXISTS (SELECT 1 FROM " + dialect.syntax().table(table) + " o WHERE "
                        + equal("o", "t", unique, unique) + " AND ")
                .add(terms.condition(table, marker.active(), "o"));
        taken(stage, there, "an active row has the same " + String.join(", ", unique));
    }

    /** By a row o that may be told of, or by one outside the scope. */
    private void taken(StagingTable stage, Sql there, String reason) {
        Sql inside = terms.inScope(stage.table().name(), "o");
        if (inside == null) {
            add(stage, null, there.add(")"), reason);
            return;
        }
        Sql open = new Sql().add(there).add(" AND ").add(inside).add(")");
        Sql closed = new Sql().add(there).add(" AND NOT ").add(inside).add(")");
        add(stage, null, open, reason);
        add(stage, null, closed, FoundBlocker.OUTSIDE_SCOPE, true);
    }

    private void parent(StagingTable stage, Relation relation) {
        TableName parent = relation.parent();
        Sql refers = Referring.refers(relation, dialect.syntax(), "t");
        String live = "EXISTS (SELECT 1 FROM " + dialect.syntax().table(parent) + " p WHERE "
                + dialect.syntax().joined(relation, "p", "t");
        if (relation.enforced()) {
            StagingTable parents = rows.get(parent);
            String back = parents == null
                    ? ""
                    : " AND NOT EXISTS (SELECT 1 FROM " + parents.name() + " p WHERE "
                            + dialect.syntax().joined(relation, "p", "t") + ")";
            add(
                    stage,
                    relation,
                    new Sql().add(refers).add(" AND NOT " + live + ")" + back),
                    "the " + parent + " they refer to is gone");
        }
        StagingTable away = skipped(parent);
        if (away != null) {
            // Another row may have the key by now; it is not the one they went with.
            add(
                    stage,
                    relation,
                    Sql.of("EXISTS (SELECT 1 FROM " + away.name() + " p WHERE "
                                    + dialect.syntax().joined(relation, "p", "t") + " AND p." + StagingTable.RECEIPT
                                    + " = t." + StagingTable.RECEIPT + ")")
                            .add(Referring.andKind(relation, dialect.syntax(), "t")),
                    "the " + parent + " they were deleted with is not restored");
        }
        MarkerPredicates parentMarker = marked.get(parent);
        MarkerPredicates own = marked.get(stage.table().name());
        if (parentMarker != null && own != null) {
            Condition active = own.active();
            add(
                    stage,
                    relation,
                    new Sql()
                            .add(refers)
                            .add(" AND " + live + " AND ")
                            .add(terms.condition(parent, parentMarker.deleted(), "p"))
                            .add(") AND ")
                            .add(terms.condition(stage.table().name(), active, "t")),
                    "the " + parent + " they refer to is marked as deleted");
        }
    }

    private void changed(ColumnRestore link) {
        StagingTable stage = link.stage();
        losses(stage);
        TableName table = stage.table().name();
        String there = "EXISTS (SELECT 1 FROM " + dialect.syntax().table(table) + " c WHERE " + stage.same("c", "t");
        String gone =
                "the row " + (link.link() ? "whose link" : "of which " + link.named()) + " would be put back is gone";
        add(stage, link.relation(), Sql.of("NOT " + there + ")"), gone);
        Sql inside = terms.inScope(table, "c");
        if (inside != null) {
            Sql outside = Sql.of(there + " AND NOT ").add(inside).add(")");
            add(stage, link.relation(), outside, FoundBlocker.OUTSIDE_SCOPE, true);
        }
        Relation relation = link.relation();
        if (!link.link() || relation == null) {
            stage.table().keys().forEach(key -> takenSince(link, key));
            return;
        }
        StagingTable away = skipped(relation.parent());
        if (away != null) {
            add(
                    stage,
                    relation,
                    Sql.of("EXISTS (SELECT 1 FROM " + away.name() + " p WHERE " + link.refersTo("p", dialect) + ")"),
                    "the " + relation.parent() + " they referred to is not restored");
        }
        if (relation.enforced()) {
            StagingTable parents = rows.get(relation.parent());
            String live = "NOT EXISTS (SELECT 1 FROM " + dialect.syntax().table(relation.parent()) + " p WHERE "
                    + link.refersTo("p", dialect) + ")";
            String back = parents == null
                    ? ""
                    : " AND NOT EXISTS (SELECT 1 FROM " + parents.name() + " p WHERE " + link.refersTo("p", dialect)
                            + ")";
            add(
                    stage,
                    relation,
                    Sql.of(link.refers(dialect) + " AND " + live + back),
                    "the " + relation.parent() + " they referred to is gone");
        }
    }

    /** A unique value that was blanked, and that another row has by now. */
    private void takenSince(ColumnRestore values, List<String> key) {
        if (Collections.disjoint(key, values.columns())) {
            return;
        }
        StagingTable stage = values.stage();
        String table = dialect.syntax().table(stage.table().name());
        // The row itself beside the other one: MariaDB takes no sub-query for a value here.
        Sql there = Sql.of("EXISTS (SELECT 1 FROM " + table + " o, " + table + " c WHERE " + stage.same("c", "t")
                + " AND NOT (" + stage.same("o", "t") + ")");
        for (String column : key) {
            String quoted = dialect.syntax().quote(column);
            boolean blanked = values.columns().contains(column);
            there.add(" AND o." + quoted + " = "
                    + (blanked ? "t." + dialect.syntax().quote(ArchivedColumn.OLD + column) : "c." + quoted));
        }
        taken(stage, there, "another row has the same " + String.join(", ", key) + " by now");
    }

    private @Nullable StagingTable skipped(TableName table) {
        StagingTable stage = rows.get(table);
        return stage == null ? null : stage.skipped();
    }

    private String equal(String one, String other, List<String> ones, List<String> others) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < ones.size(); i++) {
            parts.add(one + "." + dialect.syntax().quote(ones.get(i)) + " = " + other + "."
                    + dialect.syntax().quote(others.get(i)));
        }
        return String.join(" AND ", parts);
    }

    /** Warnings of what is no hindrance, since no foreign key minds it: rows without the parent they refer to. */
    List<Sql> danglingIn(StagingTable stage) {
        List<Sql> dangling = new ArrayList<>();
        Set<Relation> seen = new HashSet<>();
        for (Relation relation : schema.relationsFrom(stage.table().name())) {
            if (relation.enforced() || !seen.add(relation)) {
                continue;
            }
            StagingTable parents = rows.get(relation.parent());
            String missing = " AND NOT EXISTS (SELECT 1 FROM %s p WHERE "
                    + dialect.syntax().joined(relation, "p", "t") + ")";
            String back = parents == null ? "" : String.format(missing, parents.name());
            dangling.add(Referring.refers(relation, dialect.syntax(), "t")
                    .add(String.format(missing, dialect.syntax().table(relation.parent())) + back));
        }
        return dangling;
    }

    /** The columns of a line that were changed, without what stands before their names. */
    static List<String> changedColumns(Table child, ArchivedRows line) {
        return line.columns().stream()
                .map(ArchivedColumn::name)
                .filter(name -> name.startsWith(ArchivedColumn.OLD))
                .map(name -> name.substring(ArchivedColumn.OLD.length()))
                .filter(child::has)
                .toList();
    }
}
