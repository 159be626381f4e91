package io.vacancy.jdbc.walk;

import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.preview.Portion;
import io.vacancy.preview.SparedRow;
import io.vacancy.preview.Sparing;
import io.vacancy.program.Branch;
import io.vacancy.program.Component;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Leaves out the selected rows whose going is blocked. What blocks is followed from child to parent, along the
 * relations by which rows take one another along, up to the selected rows; these are taken out, and the walk
 * begins anew, until nothing is blocked. All of it on sets: statements depend on the relations, on the depth of
 * cycles and on how often sparing one row blocks another.
 */
final class Spared {

    private final Walk walk;
    private final RowSet spared;
    private final List<Obstacle> reasons = new ArrayList<>();
    private final Map<TableName, RowSet> tainted = new HashMap<>();

    Spared(Walk walk) {
        this.walk = walk;
        this.spared = walk.referringRows(walk.program().root());
    }

    void run() {
        while (walk.doomed(walk.program().root()).size() > 0) {
            tainted.clear();
            Obstacles.of(walk).forEach(this::taint);
            if (tainted.values().stream().allMatch(rows -> rows.size() == 0)) {
                return;
            }
            List<Component> components = walk.program().components();
            for (int i = components.size() - 1; i >= 0; i--) {
                climb(components.get(i));
            }
            long before = spared.size();
            RowSet hit = tainted(walk.program().root());
            for (int reason : hit.ways()) {
                spared.add(
                        walk.selected().add(" AND ").add(hit.containsVia("t", List.of(reason))),
                        reason,
                        0,
                        false,
                        Context.of("sparing rows of", walk.program().root()));
            }
            if (spared.size() == before) {
                throw new IllegalStateException("what blocks cannot be traced to a selected row of "
                        + walk.program().root());
            }
            walk.restart(spared);
        }
    }

    private RowSet tainted(TableName table) {
        return tainted.computeIfAbsent(table, walk::referringRows);
    }

    /** The rows that would go and that something in the way refers to. */
    private void taint(Obstacle obstacle) {
        Relation relation = obstacle.relation();
        if (relation == null) {
            // It is about rows that would go themselves.
            RowSet rows = tainted(obstacle.table());
            if (rows.add(
                            obstacle.which(),
                            reasons.size(),
                            0,
                            false,
                            Context.of("looking for blocking rows in", obstacle.table()))
                    > 0) {
                reasons.add(obstacle);
            }
            return;
        }
        Context context = Context.of("looking for blocking rows in", relation.child(), relation.name());
        RowSet standing = walk.referringRows(relation.child());
        standing.add(obstacle.which(), 0, 0, false, context);
        if (standing.size() > 0) {
            reasons.add(obstacle);
            taint(relation, standing, null, reasons.size() - 1);
        }
    }

    /** @return how many rows were new */
    private long taint(Relation relation, RowSet children, @Nullable List<Integer> via, int reason) {
        Sql which = walk.doomed(relation.parent())
                .contains("t")
                .add(" AND ")
                .add(children.refersTo("t", relation.parentColumns(), relation.childColumns(), via, null));
        return tainted(relation.parent())
                .add(
                        which,
                        reason,
                        0,
                        false,
                        Context.of("following what blocks to", relation.parent(), relation.name()));
    }

    private void climb(Component component) {
        long found = 1;
        while (found > 0 && !component.within().isEmpty()) {
            found = 0;
            for (Branch branch : component.within()) {
                found += climb(branch);
            }
        }
        component.entering().forEach(this::climb);
    }

    /** A parent that takes a tainted child along is tainted too. */
    private long climb(Branch branch) {
        Relation relation = branch.relation();
        RowSet children = tainted(relation.child());
        long found = 0;
        for (int reason : children.ways()) {
            Sql meant = walk.meant(branch);
            if (meant == null) {
                found += taint(relation, children, List.of(reason), reason);
            } else {
                RowSet taken = walk.referringRows(relation.child());
                Sql which = meant.add(" AND ").add(children.containsVia("t", List.of(reason)));
                taken.add(which, 0, 0, false, Walk.context("following what blocks in", branch));
                found += taken.size() == 0 ? 0 : taint(relation, taken, null, reason);
            }
        }
        return found;
    }

    /** How many rows were left out, and the first of them. */
    Portion portion(int shown) {
        return new Portion(spared.size(), spared.size() == 0 ? List.of() : walk.few(spared, null, shown));
    }

    /** Every row that was left out, with the reason. */
    Stream<SparedRow> rows() {
        return spared.ways().stream().flatMap(reason -> {
            Obstacle obstacle = reasons.get(reason);
            return walk.rows(spared, reason).map(row -> new SparedRow(row, obstacle.name(), obstacle.reason()));
        });
    }

    /** Why they were left out, in the order in which it was found. */
    List<Sparing> reasons(int shown) {
        List<Sparing> told = new ArrayList<>();
        for (int reason : spared.ways()) {
            Obstacle obstacle = reasons.get(reason);
            told.add(new Sparing(
                    obstacle.name(),
                    spared.counts().getOrDefault(reason, 0L),
                    obstacle.reason(),
                    walk.few(spared, reason, shown)));
        }
        return told;
    }
}
