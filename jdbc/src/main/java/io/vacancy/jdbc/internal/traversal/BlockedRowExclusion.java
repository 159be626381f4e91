// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.sql.Referring;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.preview.SkippedRow;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Component;
import io.vacancy.spi.plan.RelationStep;
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
 * cycles and on how often skipping one row blocks another.
 */
final class BlockedRowExclusion {

    private final RelationTraversal traversal;
    private final KeySet skipped;
    private final List<FoundBlocker> reasons = new ArrayList<>();
    private final Map<TableName, KeySet> tainted = new HashMap<>();

    BlockedRowExclusion(RelationTraversal traversal) {
        this.traversal = traversal;
        this.skipped = traversal.sets().referring(traversal.program().root());
    }

    void run() {
        while (traversal.rowsToDelete(traversal.program().root()).size() > 0) {
            tainted.clear();
            BlockerQuery.of(traversal).forEach(this::taint);
            if (tainted.values().stream().allMatch(rows -> rows.size() == 0)) {
                return;
            }
            List<Component> components = traversal.program().components();
            for (int i = components.size() - 1; i >= 0; i--) {
                climb(components.get(i));
            }
            long before = skipped.size();
            KeySet hit = tainted(traversal.program().root());
            for (int reason : hit.ways()) {
                skipped.add(
                        traversal.selected().add(" AND ").add(hit.containsVia("t", List.of(reason))),
                        reason,
                        0,
                        Finding.LOOKED_AT,
                        StatementContext.of(
                                "skipping rows of", traversal.program().root()));
            }
            if (skipped.size() == before) {
                throw new IllegalStateException("what blocks cannot be traced to a selected row of "
                        + traversal.program().root());
            }
            traversal.restart(skipped);
        }
    }

    private KeySet tainted(TableName table) {
        return tainted.computeIfAbsent(table, traversal.sets()::referring);
    }

    /** The rows that would go and that something in the way refers to. */
    private void taint(FoundBlocker blocker) {
        Relation relation = blocker.relation();
        if (relation == null) {
            // It is about rows that would go themselves.
            KeySet rows = tainted(blocker.table());
            if (rows.add(
                            blocker.which(),
                            reasons.size(),
                            0,
                            Finding.LOOKED_AT,
                            StatementContext.of("looking for blocking rows in", blocker.table()))
                    > 0) {
                reasons.add(blocker);
            }
            return;
        }
        StatementContext context =
                StatementContext.of("looking for blocking rows in", relation.child(), relation.name());
        KeySet standing = traversal.sets().referring(relation.child());
        standing.add(blocker.which(), 0, 0, Finding.LOOKED_AT, context);
        if (standing.size() > 0) {
            reasons.add(blocker);
            taint(relation, standing, null, reasons.size() - 1);
        }
    }

    /** @return how many rows were new */
    private long taint(Relation relation, KeySet children, @Nullable List<Integer> via, int reason) {
        Sql which = traversal
                .rowsToDelete(relation.parent())
                .contains("t")
                .add(" AND ")
                .add(referredTo(relation, children, via));
        return tainted(relation.parent())
                .add(
                        which,
                        reason,
                        0,
                        Finding.LOOKED_AT,
                        StatementContext.of("following what blocks to", relation.parent(), relation.name()));
    }

    /** Whether the parent row t is referred to by one of some child rows. */
    private Sql referredTo(Relation relation, KeySet children, @Nullable List<Integer> via) {
        if (relation.followedByKeys() && relation.discriminator() == null) {
            return children.refersTo("t", relation.parentColumns(), relation.childColumns(), via, null);
        }
        Syntax syntax = traversal.session().dialect().syntax();
        return Sql.of("EXISTS (SELECT 1 FROM " + syntax.table(relation.child()) + " c WHERE "
                        + syntax.joined(relation, "t", "c"))
                .add(Referring.andKind(relation, syntax, "c"))
                .add(" AND ")
                .add(children.containsVia("c", via))
                .add(")");
    }

    private void climb(Component component) {
        long found = 1;
        while (found > 0 && !component.within().isEmpty()) {
            found = 0;
            for (RelationStep branch : component.within()) {
                found += climb(branch);
            }
        }
        component.entering().forEach(this::climb);
    }

    /** A parent that takes a tainted child along is tainted too. */
    private long climb(RelationStep branch) {
        Relation relation = branch.relation();
        KeySet children = tainted(relation.child());
        long found = 0;
        for (int reason : children.ways()) {
            Sql meant = traversal.conditions().meant(branch);
            if (meant == null) {
                found += taint(relation, children, List.of(reason), reason);
            } else {
                KeySet taken = traversal.sets().referring(relation.child());
                Sql which = meant.add(" AND ").add(children.containsVia("t", List.of(reason)));
                taken.add(
                        which, 0, 0, Finding.LOOKED_AT, RelationTraversal.context("following what blocks in", branch));
                found += taken.size() == 0 ? 0 : taint(relation, taken, null, reason);
            }
        }
        return found;
    }

    /** How many rows were left out, and the first of them. */
    RowSample sample(int shown) {
        return new RowSample(skipped.size(), skipped.size() == 0 ? List.of() : traversal.few(skipped, null, shown));
    }

    /** Every row that was left out, with the reason. */
    Stream<SkippedRow> rows() {
        return skipped.ways().stream().flatMap(reason -> {
            FoundBlocker blocker = reasons.get(reason);
            return traversal.rows(skipped, reason).map(row -> new SkippedRow(row, blocker.name(), blocker.reason()));
        });
    }

    /** Why they were left out, in the order in which it was found. */
    List<SkipReason> reasons(int shown) {
        List<SkipReason> told = new ArrayList<>();
        for (int reason : skipped.ways()) {
            FoundBlocker blocker = reasons.get(reason);
            told.add(new SkipReason(
                    blocker.name(),
                    skipped.counts().getOrDefault(reason, 0L),
                    blocker.reason(),
                    traversal.few(skipped, reason, shown)));
        }
        return told;
    }
}
