// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.Action;
import io.vacancy.preview.Impact;
import io.vacancy.rules.Assignment;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.LongSupplier;
import java.util.stream.Stream;

/** Rows whose images are kept become rows again, parents first; then links are put back. */
public final class ArchiveRestoreOperation implements StoreOperation {

    private final Session session;
    private final OwnTables tables;
    private final ExecutionPlan plan;
    private final ArchiveSelection from;
    private final LongSupplier receiptNo;
    private final RestoreSelection selection;
    private final RestoreImpact judged;
    private final ConditionCompiler conditions;
    private final List<String> afterCommit = new ArrayList<>();

    /**
     * @param from which archived rows are meant
     * @param everything whether all of them come back, whatever the target selects of other rows
     * @param receiptNo the number of the receipt under which they come back, asked for when they do
     * @param lock whether the receipts are locked until the transaction ends
     */
    public ArchiveRestoreOperation(
            Session session,
            OwnTables tables,
            ExecutionPlan plan,
            ArchiveSelection from,
            boolean everything,
            boolean lock,
            LongSupplier receiptNo) {
        this.session = session;
        this.tables = tables;
        this.plan = plan;
        this.from = from;
        this.receiptNo = receiptNo;
        this.conditions = new ConditionCompiler(session, plan.program().schema(), plan.scopes(), plan.now());
        session.pace().begin(Step.FINDING, null);
        this.selection = new RestoreSelection(session, tables, plan, from, everything, lock, conditions);
        this.judged = new RestoreImpact(session, plan, selection, conditions);
    }

    @Override
    public Impact impact() {
        return judged.impact();
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        return List.of();
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        List<AffectedKeys> touched = new ArrayList<>();
        judged.found()
                .forEach((table, ways) -> ways.forEach(via -> {
                    StagingTable stage = Objects.requireNonNull(selection.rows().get(table));
                    Sql which = Sql.of("t." + StagingTable.VIA + " = " + via);
                    List<List<Object>> keys = Keys.first(session, stage.table(), stage.name(), which, most);
                    touched.add(new AffectedKeys(table, Action.RESTORE, selection.relation(via), keys));
                }));
        for (ColumnRestore link : selection.links()) {
            StagingTable stage = link.stage();
            touched.add(new AffectedKeys(
                    stage.table().name(),
                    link.action(),
                    link.relationName(),
                    Keys.first(session, stage.table(), stage.name(), Sql.of("1 = 1"), most)));
        }
        return touched;
    }

    @Override
    public Stream<Row> rows() {
        StagingTable first = selection.selectedRows();
        return first == null
                ? Stream.empty()
                : new Rows(session, first.table(), first.name())
                        .stream(Sql.of("t." + StagingTable.VIA + " = 0"), first.context("reading images of"));
    }

    @Override
    public void run(Impact found) {
        session.pace().begin(Step.CHANGING, found.going());
        StagedRowInserter inserting =
                new StagedRowInserter(session, plan.program().schema(), selection.rows());
        inserting.run();
        selection
                .links()
                .forEach(link -> inserting.putBack(link, stamps(link.stage().table())));
        afterCommit.addAll(inserting.afterwards());
        if (from.saved() == null) {
            long number = receiptNo.getAsLong();
            RestoredImages back = new RestoredImages(session, tables, selection.lines());
            Stream.concat(
                            selection.rows().values().stream(),
                            selection.links().stream().map(ColumnRestore::stage))
                    .forEach(stage -> back.note(stage, number));
        }
    }

    private Map<String, Sql> stamps(Table table) {
        Map<String, Sql> stamps = new LinkedHashMap<>();
        for (Assignment stamp : plan.writes().auditColumns().getOrDefault(table.name(), List.of())) {
            stamps.put(stamp.column(), conditions.value(stamp, table));
        }
        return stamps;
    }

    @Override
    public List<String> afterCommit() {
        return afterCommit;
    }
}
