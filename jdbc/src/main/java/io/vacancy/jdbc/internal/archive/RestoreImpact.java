// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.internal.traversal.Samples;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Judges what a restore has selected: what is left out, what stands in the way, what would come back. */
final class RestoreImpact {

    private final Session session;
    private final Dialect dialect;
    private final ExecutionPlan deletion;
    private final RestoreSelection selection;
    private final RestoreBlockerQuery query;
    private final Table root;
    /** Through which relations rows of a table were found, by the relation's number. */
    private final Map<TableName, List<Integer>> found = new LinkedHashMap<>();

    private final List<SkipReason> skippedBy = new ArrayList<>();
    private final List<String> changedSince = new ArrayList<>();
    private long skipped;

    RestoreImpact(Session session, ExecutionPlan deletion, RestoreSelection selection, ConditionCompiler terms) {
        this.session = session;
        this.dialect = session.dialect();
        this.deletion = deletion;
        this.selection = selection;
        Schema schema = deletion.program().schema();
        this.query = new RestoreBlockerQuery(schema, dialect, terms, deletion.marked(), selection.rows());
        this.root = schema.table(deletion.program().root());
        leaveOut();
    }

    /** Leaves out what has changed since, and, where that is wanted, everything that something stands in the way of. */
    private void leaveOut() {
        for (ColumnRestore link : selection.links()) {
            Sql changed = Sql.of("EXISTS (SELECT 1 FROM "
                    + dialect.syntax().table(link.stage().table().name()) + " c WHERE "
                    + link.stage().same("c", "t") + " AND CASE WHEN " + link.untouched("c", dialect)
                    + " THEN 0 ELSE 1 END = 1)");
            long left = link.stage().leaveOut(changed);
            if (left > 0) {
                changedSince.add(CountText.rows(left) + " of " + link.stage().table()
                        + (left == 1 ? " holds" : " hold") + " something else in " + link.named()
                        + " by now, and " + (left == 1 ? "keeps" : "keep") + " it.");
            }
        }
        boolean again = deletion.skipping();
        while (again) {
            again = false;
            for (RestoreBlocker blocker : checks()) {
                RowSample hit = blocker.rows(session);
                if (hit.rows() > 0) {
                    skippedBy.add(blocker.blocker().skipReason(hit));
                    skipped += hit.rows();
                    blocker.stage().spare(blocker.blocker().which());
                    again = true;
                }
            }
        }
    }

    private List<RestoreBlocker> checks() {
        return query.of(selection.links());
    }

    private Rows reading(StagingTable stage) {
        return new Rows(session, stage.table(), stage.name());
    }

    private static StatementContext reading(StagingTable stage, String step) {
        return stage.context(step + " images of");
    }

    /** What would come back, and what stands in its way. */
    Impact impact() {
        Fingerprint fingerprint = new Fingerprint(OperationKind.RESTORE, false);
        List<Effect> effects = new ArrayList<>();
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        StagingTable first = selection.selectedRows();
        if (first != null) {
            effects(first, effects, totals, fingerprint);
        }
        selection.rows().forEach((table, stage) -> {
            if (stage != first) {
                effects(stage, effects, totals, fingerprint);
            }
        });
        for (ColumnRestore link : selection.links()) {
            long count = link.stage().size();
            if (count > 0) {
                Sql which = Sql.of("EXISTS (SELECT 1 FROM " + link.stage().name() + " s WHERE "
                        + link.stage().same("s", "t") + ")");
                List<Row> sample = new Rows(session, link.stage().table())
                        .first(Samples.ROWS, which, reading(link.stage(), "looking for"));
                effects.add(new Effect(
                        link.stage().table().name(),
                        link.action(),
                        link.relationName(),
                        link.link() ? "what it was before" : String.join(", ", link.columns()),
                        count,
                        sample));
                totals.merge(link.action(), count, Long::sum);
                print(link.stage(), link.action(), fingerprint);
            }
        }
        if (!effects.isEmpty() && effects.get(0).relation() != null && skipped > 0) {
            // None of the selected rows comes back, and so nothing does.
            effects.add(0, new Effect(root.name(), Action.RESTORE, null, null, 0, List.of()));
        }
        List<Row> records = List.of();
        if (!effects.isEmpty() && first != null && effects.get(0).rows() <= Samples.RECORDS) {
            records = reading(first).all(Sql.of("t." + StagingTable.VIA + " = 0"), reading(first, "reading"));
        }
        return Impact.builder()
                .records(records)
                .effects(effects, totals)
                .blockers(deletion.skipping() ? selection.unknown() : blockers())
                .skipped(new RowSample(skipped, List.of()), skippedBy)
                .warnings(warnings())
                .fingerprint(deletion.compared() ? fingerprint.shown() : "")
                .build();
    }

    private void effects(StagingTable stage, List<Effect> effects, Map<Action, Long> totals, Fingerprint fingerprint) {
        TableName table = stage.table().name();
        Map<Integer, Long> counts = new LinkedHashMap<>();
        session.forEach(
                Sql.of("SELECT " + StagingTable.VIA + ", COUNT(*) FROM " + stage.name() + " GROUP BY "
                        + StagingTable.VIA + " ORDER BY " + StagingTable.VIA),
                stage.context("counting images of"),
                row -> counts.put(row.getInt(1), row.getLong(2)));
        found.put(table, List.copyOf(counts.keySet()));
        counts.forEach((via, count) -> {
            List<Row> sample = deletion.shown()
                    ? reading(stage)
                            .first(
                                    Samples.ROWS,
                                    Sql.of("t." + StagingTable.VIA + " = " + via),
                                    reading(stage, "reading"))
                    : List.of();
            effects.add(new Effect(table, Action.RESTORE, selection.relation(via), null, count, sample));
            totals.merge(Action.RESTORE, count, Long::sum);
        });
        print(stage, Action.RESTORE, fingerprint);
    }

    /** An image never changes, so its number stands for its content. */
    private void print(StagingTable stage, Action action, Fingerprint fingerprint) {
        if (deletion.compared()) {
            session.forEach(
                    Sql.of("SELECT " + StagingTable.IMAGE + " FROM " + stage.name()),
                    stage.context("reading images of"),
                    row -> fingerprint.effect(action, stage.table().name(), List.of(row.getLong(1)), null));
        }
    }

    private List<Blocker> blockers() {
        List<Blocker> blockers = new ArrayList<>(selection.unknown());
        for (RestoreBlocker blocker : checks()) {
            Blocker found = blocker.found(session, root.name());
            if (found != null) {
                blockers.add(found);
            }
        }
        return blockers;
    }

    private List<String> warnings() {
        List<String> told = new ArrayList<>(selection.warnings());
        told.addAll(changedSince);
        selection.rows().forEach((table, stage) -> {
            List<String> since = stage.columnsSince();
            if (!since.isEmpty()) {
                told.add("Table " + table + " has got " + String.join(", ", since) + " since; "
                        + (since.size() == 1 ? "it holds its default" : "they hold their defaults")
                        + " in what is restored.");
            }
            if (!stage.table().triggers().isEmpty()) {
                told.add("Table " + table + " has triggers, which may change more than is shown here: "
                        + String.join(", ", stage.table().triggers()) + ".");
            }
            for (Sql dangling : query.danglingIn(stage)) {
                long found = session.number(
                        Sql.of("SELECT COUNT(*) FROM " + stage.name() + " t WHERE ")
                                .add(dangling),
                        stage.context("looking for parents of"));
                if (found > 0) {
                    told.add(CountText.rows(found) + " of " + table + (found == 1 ? " refers" : " refer")
                            + " to something that is not there, which no foreign key minds.");
                }
            }
        });
        return told;
    }

    /** Through which relations rows of each table are restored, by the relation's number; once it is told. */
    Map<TableName, List<Integer>> found() {
        return found;
    }
}
