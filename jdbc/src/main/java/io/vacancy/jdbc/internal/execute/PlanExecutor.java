// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.archive.SaveTarget;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.TransactionLostException;
import io.vacancy.jdbc.internal.archive.ArchiveTables;
import io.vacancy.jdbc.internal.archive.ArchiveWriter;
import io.vacancy.jdbc.internal.archive.ErasedMarks;
import io.vacancy.jdbc.internal.archive.RejectedRowsException;
import io.vacancy.jdbc.internal.archive.RowExporter;
import io.vacancy.jdbc.internal.archive.RowsOfTriggers;
import io.vacancy.jdbc.internal.operation.NotDroppedException;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.operation.TriggerEffects;
import io.vacancy.jdbc.internal.session.CommitUnknownException;
import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.KeptByTriggerException;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.SqlExceptionTranslator;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.session.Transaction;
import io.vacancy.jdbc.internal.trail.BypassTable;
import io.vacancy.jdbc.internal.trail.TrailWriter;
import io.vacancy.jdbc.internal.traversal.Finding;
import io.vacancy.jdbc.internal.traversal.HiddenRows;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.RowHandler;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Impact;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Decision;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.Records;
import io.vacancy.spi.Store.Ending;
import io.vacancy.spi.plan.EncryptedColumns;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.trail.TrailEntry;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Carries out one plan: in one transaction, tried again after a deadlock, and told truly after the commit. */
public final class PlanExecutor {

    private final StoreContext context;
    private final Dialect dialect;
    private final ExecutionPlan plan;
    private final Decision decision;
    private final ExecutionMonitor monitor;

    public PlanExecutor(StoreContext context, ExecutionPlan plan, Decision decision, ExecutionMonitor monitor) {
        this.context = context;
        this.dialect = context.dialect();
        this.plan = plan;
        this.decision = decision;
        this.monitor = monitor;
    }

    /** What one attempt came to, as far as it goes. */
    private static final class Attempt {

        private @Nullable Impact found;
        private @Nullable ArchiveWriter writer;
    }

    public Ending execute() {
        for (int attempt = 1; ; attempt++) {
            Attempt made = new Attempt();
            Transaction transaction;
            try {
                transaction = context.beginRemoving(monitor);
            } catch (LockConflictException busy) {
                return new Ending.Busy(busy.table(), busy.detail());
            }
            Ending ending;
            try (transaction) {
                ending = execute(transaction, made);
            } catch (LockConflictException busy) {
                if (transaction.lostWith(busy)) {
                    throw TransactionLostException.byDeadlock(busy.detail(), busy);
                }
                if (!transaction.mayBeRepeated(busy, attempt)) {
                    return new Ending.Busy(busy.table(), transaction.told(busy));
                }
                monitor.retrying(attempt + 1, busy.detail());
                continue;
            } catch (StoreException failed) {
                // Closing has rolled it back, or gone back to the savepoint; a lost connection is rolled back by the
                // database, since no commit was sent.
                throw failed.nothingChanged();
            } catch (NotDroppedException still) {
                return notDropped(still);
            } catch (KeptByTriggerException kept) {
                return new Ending.Refused(String.valueOf(kept.getMessage()));
            } catch (ConcurrentChangeException changed) {
                return new Ending.ConcurrentChange(String.valueOf(changed.getMessage()));
            } catch (CommitUnknownException unknown) {
                ending = settled(made, attempt, unknown);
                if (ending == null) {
                    monitor.retrying(attempt + 1, "the connection was lost before anything was committed");
                    continue;
                }
            }
            if (plan.operation() instanceof PlannedOperation.Drop) {
                context.cache().refresh();
            }
            return ending instanceof Ending.Committed committed ? warned(committed, transaction) : ending;
        }
    }

    /** What fails after the commit cannot change what was done. */
    private static Ending warned(Ending.Committed committed, Transaction transaction) {
        List<String> warnings = new ArrayList<>(committed.warnings());
        warnings.addAll(transaction.warnings());
        return new Ending.Committed(committed.found(), warnings);
    }

    /** Finds out what became of a commit; null where it is known not to have happened, and another attempt is left. */
    private @Nullable Ending settled(Attempt made, int attempt, CommitUnknownException unknown) {
        Impact found = made.found;
        if (made.writer == null || found == null) {
            return new Ending.InDoubt(
                    "This database has no receipts to look it up by, so look at the rows themselves before trying again: "
                            + unknown.getMessage());
        }
        CommitProbe probe = new CommitProbe(context, plan, made.writer.part());
        return switch (probe.result()) {
            case COMMITTED ->
                new Ending.Committed(
                        found,
                        List.of("Committed, but the connection was lost on the answer: " + unknown.getMessage()));
            case UNKNOWN ->
                new Ending.InDoubt("Look for the receipt "
                        + plan.archivePolicy().receipt() + " before trying again: " + unknown.getMessage());
            case ROLLED_BACK -> {
                if (attempt < Transaction.ATTEMPTS) {
                    yield null;
                }
                throw new StoreException(
                        "The connection was lost " + Transaction.ATTEMPTS + " times while committing: "
                                + unknown.getMessage() + " Nothing was changed.",
                        "See what ends connections to this database, then try again.",
                        "committing",
                        plan.program().root().toString(),
                        null,
                        unknown.getCause());
            }
        };
    }

    private Ending execute(Transaction transaction, Attempt made) {
        TableName root = plan.program().root();
        Session session = transaction.session();
        transaction.limitWaiting(plan.lockTimeout());
        // The table of what is archived may be gone.
        boolean ofArchive =
                plan.operation().selectsArchived() && context.archive().ready();
        String lock = dialect.locking().lockWhole(ofArchive ? context.trailTable() : root);
        if (lock != null) {
            session.update(Sql.of(lock), StatementContext.of("locking", root));
        }
        if (context.cache().outdated(session, onTheWay())) {
            return new Ending.Outdated();
        }
        refuseStaleSnapshot(transaction);
        ArchiveTables place = context.archive();
        ExecutionPlan placed = place.placed(plan, session);
        ArchiveWriter writer =
                place.ready() ? new ArchiveWriter(session, place.tables(), placed.archivePolicy()) : null;
        if (writer != null && !writer.claim(plan.key())) {
            return new Ending.KeyUsed();
        }
        StoreOperation operation = operation(session, place, placed, writer);
        refuseIrrevocable(transaction);
        List<TableName> hiding = HiddenRows.in(session, placed);
        Impact looked = operation.impact();
        Impact found = looked.toBuilder()
                .archived(operation.archives(placed))
                .hiding(hiding)
                .build();
        if (!decision.goAhead(found)) {
            return stopped(session, place, placed, hiding);
        }
        handOver(operation::rows);
        int told = writer == null ? 0 : placed.archivePolicy().keysInTrail();
        List<AffectedKeys> affected = told == 0 ? List.of() : operation.affectedKeys(told);
        SaveTarget target = monitor.saveTarget();
        if (target != null) {
            new RowExporter(session, placed.archivePolicy()).copy(operation.rowsToArchive(), target);
        }
        TriggerEffects triggers = new TriggerEffects(session, place.tables(), placed);
        RowsOfTriggers besides = new RowsOfTriggers(session, place.tables(), placed);
        BypassTable bypass = new BypassTable(place.state());
        String receipt = placed.archivePolicy().receipt().value();
        if (writer != null) {
            bypass.cover(session, receipt);
            writer.begin(decision.records(found, List.of(), writer.part()).receipt());
            belonging(found, placed, writer);
            List<RowsToArchive> rows = operation.rowsToArchive();
            new ErasedMarks(session, place.tables(), placed).note(rows, writer.receiptNo());
            writer.archive(rows);
            writer.archive(besides.before());
        }
        if (operation.irrevocable()) {
            return new IrrevocableExecution(transaction, operation, writer, place, decision, found, affected)
                    .ending(root);
        }
        try {
            operation.run(found);
        } catch (RejectedRowsException rejected) {
            List<Blocker> blockers = new ArrayList<>(found.blockers());
            blockers.add(rejected.blocker());
            decision.goAhead(found.toBuilder().blockers(blockers).build());
            return new Ending.Stopped();
        }
        if (!placed.compared()) {
            found = operation.afterwards(found);
            if (!decision.goAhead(found)) {
                return new Ending.Stopped();
            }
        }
        found = triggers.told(found);
        if (writer != null) {
            besides.after();
            bypass.uncover(session, receipt);
            Records records = decision.records(found, affected, writer.part());
            String document = writer.end(records.receipt());
            TrailEntry entry = records.entry();
            if (entry != null) {
                new TrailWriter(session, place.tables()).write(entry.with(writer.digests(document)), records.outbox());
            }
        }
        besides(transaction, found);
        made.found = found;
        made.writer = writer;
        transaction.finish(root);
        transaction.afterCommit(operation.afterCommit());
        return new Ending.Committed(found, List.of());
    }

    /** The tables whose rows are removed or changed, or decide about it. */
    private Set<TableName> onTheWay() {
        Set<TableName> tables = new LinkedHashSet<>(plan.program().tables());
        for (TableName table : List.copyOf(tables)) {
            plan.program().schema().relationsTo(table).forEach(relation -> tables.add(relation.child()));
        }
        return tables;
    }

    private StoreOperation operation(
            Session session, ArchiveTables place, ExecutionPlan plan, @Nullable ArchiveWriter writer) {
        boolean counted = writer == null && monitor.rowHandler() == null && monitor.saveTarget() == null;
        Finding finding = counted ? Finding.COUNTED : Finding.LOCKED;
        return new OperationFactory(session, place, plan, finding, writer).operation();
    }

    /** What the application has committed together with it. */
    private void besides(Transaction transaction, Impact found) {
        ExecutionMonitor.BeforeCommit step = monitor.beforeCommit();
        if (step == null) {
            return;
        }
        StatementContext context = new StatementContext("having the application's own step committed", null, null);
        try {
            Connection connection = transaction.session().connection();
            transaction.mark();
            step.run(found, connection);
            if (!transaction.isMarked(plan.program().root())) {
                // What was done is committed in part, or not at all.
                throw new MisuseException(
                        "The application's own step before the commit ended the transaction of the deletion.",
                        "Leave commit and rollback to Vacancy; look for the receipt "
                                + plan.archivePolicy().receipt() + " before trying again.");
            }
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, context, dialect);
        } catch (RuntimeException failed) {
            throw failed;
        } catch (Exception failed) {
            throw new StoreException(
                    "The application's own step before the commit failed: " + failed.getMessage(),
                    "See what it needs, then try again.",
                    "having the application's own step committed",
                    plan.program().root().toString(),
                    null,
                    failed);
        }
    }

    private void handOver(Supplier<Stream<Row>> selected) {
        RowHandler handler = monitor.rowHandler();
        if (handler != null) {
            handler.begin();
            try (Stream<Row> rows = selected.get()) {
                rows.forEachOrdered(handler::take);
            }
        }
    }

    /** An enforced foreign key holds whatever a transaction still sees; nothing else does. */
    private void refuseStaleSnapshot(Transaction transaction) {
        for (RelationStep branch : plan.program().branches()) {
            Relation relation = branch.relation();
            if ((!relation.enforced() || !dialect.locking().parentsLockOutChildren())
                    && transaction.mayReadStaleRows()) {
                throw new MisuseException(
                        "The transaction may see rows as they were before the locks, and on " + relation
                                + " no foreign key of " + dialect.name() + " holds against what it does not see.",
                        "Use READ COMMITTED for this transaction, or let Vacancy use a connection of its own.");
            }
        }
    }

    /** Where one person is forgotten, all rows are the person's. */
    private static void belonging(Impact found, ExecutionPlan placed, ArchiveWriter writer) {
        Map<TableName, EncryptedColumns> encrypted = placed.archivePolicy().encrypted();
        if (encrypted.values().stream().anyMatch(columns -> columns.by().isEmpty())
                && found.records().size() == 1) {
            Row person = found.records().get(0);
            Table persons = placed.program().schema().table(person.table());
            writer.belongingTo(persons.identity().columns().stream()
                    .map(column -> String.valueOf(person.get(column)))
                    .toList());
        }
    }

    /** Whoever has begun a transaction has more in mind than one that is committed, or that others wait for. */
    private void refuseIrrevocable(Transaction transaction) {
        if (plan.operation() instanceof PlannedOperation.Drop && !transaction.own()) {
            throw new MisuseException(
                    "A table or a column is not dropped within a transaction of the application.",
                    "Have it done on its own, after the transaction or by separately().");
        }
    }

    /** Everything was rolled back. */
    private static Ending notDropped(NotDroppedException still) {
        String reason = String.valueOf(still.getMessage());
        return switch (still.kind()) {
            case BUSY -> new Ending.Busy(null, reason);
            case REFUSED, UNKNOWN -> new Ending.Refused(reason);
        };
    }

    /** What is against it is shown whole, also where nobody would have been shown what was done. */
    private Ending stopped(Session session, ArchiveTables place, ExecutionPlan placed, List<TableName> hiding) {
        if (!placed.shown()
                && decision.goAhead(operation(session, place, placed.toBeShown(), null).impact().toBuilder()
                        .hiding(hiding)
                        .build())) {
            return new Ending.ConcurrentChange("What was against it is gone since it was looked at.");
        }
        return new Ending.Stopped();
    }
}
