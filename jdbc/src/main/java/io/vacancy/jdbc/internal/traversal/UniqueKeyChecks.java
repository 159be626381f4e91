// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.RelationStep;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Whether rows that get another parent would collide in a unique key. */
final class UniqueKeyChecks {

    private final RelationTraversal traversal;
    private final Session session;
    private final Consumer<FoundBlocker> found;

    UniqueKeyChecks(RelationTraversal traversal, Consumer<FoundBlocker> found) {
        this.traversal = traversal;
        this.session = traversal.session();
        this.found = found;
    }

    void look() {
        traversal.changed().keySet().stream()
                .map(branch -> branch.relation().child())
                .distinct()
                .forEach(this::collisions);
    }

    /**
     * Rows that would have the same values in a unique key, once some of them have another parent. The values
     * are those after all changes, among all rows that stay.
     */
    private void collisions(TableName child) {
        Table table = traversal.schema().table(child);
        List<Map.Entry<RelationStep, KeySet>> changes = traversal.changed().entrySet().stream()
                .filter(change -> change.getKey().relation().child().equals(child)
                        && change.getValue().size() > 0)
                .toList();
        Set<String> written = new LinkedHashSet<>();
        changes.stream()
                .filter(change -> change.getKey().action() instanceof RuleAction.Reassign)
                .forEach(change -> written.addAll(change.getKey().relation().childColumns()));
        for (List<String> key : table.keys()) {
            if (key.stream().noneMatch(written::contains)) {
                continue;
            }
            Sql same = sameAfterwards(table, key, changes);
            changes.stream()
                    .filter(change ->
                            change.getKey().relation().childColumns().stream().anyMatch(key::contains))
                    .forEach(change -> placeTaken(table, key, change, changes));
            changes.stream()
                    .map(change -> change.getKey().relation())
                    .distinct()
                    .filter(relation -> relation.childColumns().stream().anyMatch(key::contains))
                    .forEach(relation -> found.accept(FoundBlocker.through(
                            relation,
                            new Sql().add(same),
                            "they would share " + String.join(", ", key) + " with other rows of " + child)));
        }
    }

    /** The place of a row that goes is free only once it has gone, and rows are changed before that. */
    private void placeTaken(
            Table table,
            List<String> key,
            Map.Entry<RelationStep, KeySet> change,
            List<Map.Entry<RelationStep, KeySet>> changes) {
        TableName name = table.name();
        if (!traversal.program().tables().contains(name)
                || traversal.rowsToDelete(name).size() == 0) {
            return;
        }
        Sql taken = change.getValue()
                .contains("t")
                .add(" AND 0 < (SELECT COUNT(*) FROM "
                        + session.dialect().syntax().table(name) + " d WHERE ")
                .add(traversal.rowsToDelete(name).contains("d"));
        for (String column : key) {
            taken.add(" AND d." + session.dialect().syntax().quote(column) + " = ")
                    .add(afterwards(table, column, changes));
        }
        found.accept(FoundBlocker.through(
                change.getKey().relation(),
                taken.add(")"),
                "they would take the place, by " + String.join(", ", key) + ", of rows of " + name
                        + " that go only after them"));
    }

    private Sql sameAfterwards(Table table, List<String> key, List<Map.Entry<RelationStep, KeySet>> changes) {
        Sql groups = Sql.of("SELECT ");
        Sql equal = new Sql();
        for (int i = 0; i < key.size(); i++) {
            groups.add(i == 0 ? "" : ", ")
                    .add(afterwards(table, key.get(i), changes))
                    .add(" AS a" + i);
            equal.add((i == 0 ? "" : " AND ") + "shared.a" + i + " = ").add(afterwards(table, key.get(i), changes));
        }
        groups.add(" FROM " + session.dialect().syntax().table(table.name()) + " t");
        Sql staying = new Sql();
        if (traversal.program().tables().contains(table.name())) {
            staying.add("NOT ").add(traversal.rowsToDelete(table.name()).contains("t"));
            groups.add(" WHERE ").add(staying);
            staying.add(" AND ");
        }
        String names = IntStream.range(0, key.size()).mapToObj(i -> "a" + i).collect(Collectors.joining(", "));
        // Not EXISTS, which MariaDB turns into a form that it then refuses where a value is a sub-query.
        // A NULL in a group's key makes the comparison with it unknown, so that no row is among its rows.
        return staying.add("0 < (SELECT COUNT(*) FROM (SELECT " + names + " FROM (")
                .add(groups)
                .add(") afterwards GROUP BY " + names + " HAVING COUNT(*) > 1) shared WHERE ")
                .add(equal)
                .add(")");
    }

    /** What a column of row t will hold. */
    private Sql afterwards(Table table, String column, List<Map.Entry<RelationStep, KeySet>> changes) {
        Sql now = Sql.of("t." + session.dialect().syntax().quote(column));
        Sql whens = new Sql();
        for (Map.Entry<RelationStep, KeySet> change : changes) {
            Sql then = NewValue.of(change.getKey(), traversal).get(column);
            if (then != null) {
                whens.add(" WHEN ")
                        .add(change.getValue().contains("t"))
                        .add(" THEN ")
                        .add(then);
            }
        }
        return whens.text().isEmpty()
                ? now
                : Sql.of("CASE").add(whens).add(" ELSE ").add(now).add(" END");
    }
}
