// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.archive.ArchivedRows;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.SqlExceptionTranslator;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.HeldRows;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.internal.traversal.Samples;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Dropping;
import io.vacancy.jdbc.spi.Dropping.Exclusion;
import io.vacancy.jdbc.spi.Dropping.Use;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongSupplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Drops a table, or a column of one, once nothing else uses it. */
public final class DropOperation implements StoreOperation {

    private static final Logger LOG = LoggerFactory.getLogger(DropOperation.class);

    private final Session session;
    private final Dialect dialect;
    private final Dropping dropping;
    private final ExecutionPlan plan;
    private final Table table;
    private final @Nullable String column;
    private final List<String> unfit;
    private final LongSupplier archivedBefore;
    private long counted;
    private @Nullable TableDigest before;

    /**
     * @param lock whether everybody else is kept out from now on, where a transaction can do that
     * @param archivedBefore how many rows of the table the archive has already
     */
    public DropOperation(
            Session session,
            ExecutionPlan plan,
            PlannedOperation.Drop what,
            boolean lock,
            LongSupplier archivedBefore) {
        this.session = session;
        this.dialect = session.dialect();
        this.dropping = dialect.dropping();
        this.plan = plan;
        this.table = plan.program().schema().table(plan.program().root());
        this.column = what.column();
        this.unfit = what.unfit();
        this.archivedBefore = archivedBefore;
        String statement = lock && !irrevocable() ? dialect.truncation().lock(table.name()) : null;
        if (statement != null) {
            session.update(Sql.of(statement), StatementContext.of("locking", table.name()));
        }
    }

    /** What dropping commits, on some engines. */
    @Override
    public boolean irrevocable() {
        return !dialect.definitions().definesInTransaction();
    }

    private Sql which() {
        return Sql.of(column == null ? "1 = 1" : "t." + dialect.syntax().quote(column) + " IS NOT NULL");
    }

    @Override
    public Impact impact() {
        TableName name = table.name();
        counted = session.number(
                Sql.of("SELECT COUNT(*) FROM " + dialect.syntax().table(name) + " t WHERE ")
                        .add(which()),
                StatementContext.of("counting rows of", name));
        long rows = counted;
        List<Row> sample = new Rows(session, table).first(Samples.ROWS, which(), StatementContext.of("reading", name));
        List<Use> uses = uses();
        String obstacle = obstacle();
        // What cannot be dropped need not be made again.
        List<String> definition = obstacle == null ? definition() : List.of();
        Fingerprint fingerprint =
                new Fingerprint(OperationKind.DROP, plan.archivePolicy().images());
        fingerprint.effect(Action.DROP, name, List.of(column == null ? "" : column, rows, definition), null);
        return Impact.builder()
                .effects(List.of(new Effect(name, Action.DROP, null, column, rows, sample)), Map.of(Action.DROP, rows))
                .blockers(blockers(uses, obstacle))
                .warnings(warnings(uses))
                .definition(definition)
                .fingerprint(fingerprint.shown())
                .build();
    }

    private List<Use> uses() {
        try {
            return dropping.uses(session.connection(), table);
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(
                    failed, StatementContext.of("looking for what uses", table.name()), dialect);
        }
    }

    private @Nullable String obstacle() {
        try {
            return dropping.obstacle(session.connection(), table);
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(
                    failed, StatementContext.of("looking for what uses", table.name()), dialect);
        }
    }

    private List<String> definition() {
        try {
            return column == null
                    ? dropping.definition(session.connection(), table)
                    : dropping.definition(table, table.column(column));
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(
                    failed, StatementContext.of("reading the definition of", table.name()), dialect);
        }
    }

    private List<Blocker> blockers(List<Use> uses, @Nullable String obstacle) {
        List<Blocker> blockers = new ArrayList<>();
        if (obstacle != null) {
            blockers.add(blocker(obstacle));
        }
        if (irrevocable() && exclusion() == null) {
            blockers.add(blocker("dropping commits on " + dialect.name()
                    + ", and it is not known how to keep others from the table meanwhile"));
        }
        for (Relation relation : plan.program().schema().relations()) {
            if (relation.enforced() && uses(relation)) {
                blockers.add(new Blocker(
                        relation.child(), relation.name(), 0, "the foreign key has to go first", List.of(), List.of()));
            }
        }
        if (column != null && table.keys().stream().anyMatch(key -> key.contains(column))) {
            blockers.add(blocker("column " + column + " is part of a key"));
        }
        uses.stream()
                .filter(this::blocks)
                .forEach(use ->
                        blockers.add(blocker(use.kind().word() + " " + use.name() + " uses it, and has to go first")));
        unfit.forEach(
                complaint -> blockers.add(blocker("the rule book names it, and would not fit any more: " + complaint)));
        blockers.addAll(HeldRows.blockers(session, plan, table));
        return blockers;
    }

    private Blocker blocker(String reason) {
        return new Blocker(table.name(), null, 0, reason, List.of(), List.of());
    }

    /** A table takes its own foreign keys along. */
    private boolean uses(Relation relation) {
        boolean ofParent = relation.parent().equals(table.name());
        boolean ofChild = relation.child().equals(table.name());
        return column == null
                ? ofParent && !ofChild
                : (ofParent && relation.parentColumns().contains(column))
                        || (ofChild && relation.childColumns().contains(column));
    }

    private boolean blocks(Use use) {
        if (column == null) {
            return !use.own() && use.mentions(table.name().name());
        }
        if (use.kind() == Use.Kind.VIEW && dropping.viewsKeepColumns()) {
            return use.mentions(table.name().name());
        }
        return (use.own() || use.mentions(table.name().name())) && use.mentions(column);
    }

    private List<String> warnings(List<Use> uses) {
        List<String> warnings = new ArrayList<>();
        String along = uses.stream()
                .filter(use -> use.own() && column == null)
                .map(use -> use.kind().word() + " " + use.name())
                .collect(Collectors.joining(", "));
        if (!along.isEmpty()) {
            warnings.add("With the table go " + along + ".");
        }
        if (irrevocable()) {
            warnings.add("No rollback takes this back on " + dialect.name()
                    + ": it is committed as soon as it is done, and what is archived before it.");
        }
        if (column != null && !table.identity().lasts()) {
            warnings.add("Table " + table + " has no key to tell its rows apart by, so nothing of column " + column
                    + " is archived.");
        }
        long before = archivedBefore.getAsLong();
        if (before > 0) {
            warnings.add((column == null ? "" : "Column " + column + " is in what is archived: ")
                    + CountText.archivedRows(before) + " of " + table + " of earlier receipts "
                    + (column == null
                            ? "can only be restored once the table is made again."
                            : "would come back without it."));
        }
        return warnings;
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        if (column == null) {
            return List.of(RowsToArchive.whole(table, null, which(), null, null));
        }
        return table.identity().lasts()
                ? List.of(new RowsToArchive(
                        table,
                        ArchivedRows.Kind.VALUES,
                        null,
                        which(),
                        null,
                        null,
                        Map.of(column, Optional.of(Sql.of("NULL")))))
                : List.of();
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        return List.of(new AffectedKeys(
                table.name(),
                Action.DROP,
                null,
                Keys.first(session, table, dialect.syntax().table(table.name()), which(), most)));
    }

    @Override
    public Stream<Row> rows() {
        return new Rows(session, table).stream(which(), StatementContext.of("reading", table.name()));
    }

    /** Remembers what was archived, which is locked until it is committed; what is dropped afterwards has to be the same. */
    @Override
    public void archived(long rows) {
        TableDigest now = TableDigest.of(session, table, which());
        if (now.rows() != rows || counted != rows) {
            throw changed();
        }
        before = now;
    }

    private NotDroppedException changed() {
        return new NotDroppedException(
                NotDroppedException.Kind.BUSY, "somebody was changing rows of " + table + " while they were archived.");
    }

    private @Nullable Exclusion exclusion() {
        Duration wait = plan.lockTimeout();
        return dropping.exclusion(table.name(), wait == null ? null : Math.max(1, wait.toSeconds()));
    }

    /** @throws NotDroppedException if it is still there, or nobody knows */
    @Override
    public void run(Impact found) {
        String statement = column == null ? dropping.table(table.name()) : dropping.column(table.name(), column);
        StatementContext context = StatementContext.of("dropping", table.name());
        Exclusion alone = irrevocable() ? exclusion() : null;
        try {
            if (alone != null) {
                session.update(Sql.of(alone.begin()), context);
            }
            if (before != null && !before.equals(TableDigest.of(session, table, which()))) {
                throw changed();
            }
            session.update(Sql.of(statement), context);
        } catch (LockConflictException busy) {
            throw new NotDroppedException(NotDroppedException.Kind.BUSY, busy.detail(), busy);
        } catch (VacancyException failed) {
            // Also where it was cancelled: what a statement had begun the engine itself takes back.
            boolean lost = failed.getCause() instanceof SQLException cause
                    && dialect.errors().of(cause) == Fault.DISCONNECTED;
            throw new NotDroppedException(
                    lost ? NotDroppedException.Kind.UNKNOWN : NotDroppedException.Kind.REFUSED,
                    String.valueOf(failed.getMessage()),
                    failed);
        } finally {
            if (alone != null) {
                end(alone, context);
            }
        }
    }

    /** Where others cannot be let in again, the connection is given up, with which they are. */
    private void end(Exclusion alone, StatementContext context) {
        try {
            session.update(Sql.of(alone.end()), context);
        } catch (VacancyException | LockConflictException failed) {
            LOG.warn("the connection is given up, since others could not be let in again", failed);
            try {
                session.connection().abort(Runnable::run);
            } catch (SQLException gone) {
                LOG.debug("it is gone already: {}", gone.getMessage());
            }
        }
    }
}
