// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.internal.traversal.HeldRows;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.internal.traversal.Samples;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Images go for good: of whole lines, or of selected rows of one table. What is held stays. */
public final class PurgeOperation implements StoreOperation {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final ExecutionPlan deletion;
    private final Schema schema;
    private final Table root;
    private final List<Line> lines = new ArrayList<>();
    private final Map<TableName, StagingTable> stages = new LinkedHashMap<>();
    /** Rows of the selected table that stayed, and of which columns are archived; null where none is selected by key. */
    private @Nullable StagingTable stayed;

    private final List<Blocker> blockers = new ArrayList<>();
    private final List<SkipReason> skippedBy = new ArrayList<>();
    private long skipped;

    public PurgeOperation(Session session, OwnTables tables, ExecutionPlan deletion, ArchiveSelection images) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.deletion = deletion;
        this.schema = deletion.program().schema();
        this.root = schema.table(deletion.program().root());
        session.pace().begin(Step.FINDING, null);
        ArchiveQuery query = ArchiveQuery.all().withUsed().receipts(images.receipts());
        ArchiveQuery due = images.dueAt() == null ? query : query.dueAt(images.dueAt());
        ConditionCompiler terms = new ConditionCompiler(session, schema, deletion.scopes(), deletion.now());
        Sql selected = ArchiveFilter.of(deletion, root, dialect, terms);
        List<Line> found = new ArchiveReader(session, tables, schema, deletion.scopes()).list(due);
        Target target = deletion.target();
        boolean everyRow = target.keys() == null
                && target.which() == null
                && !images.receipts().isEmpty();
        boolean whole = everyRow
                && found.stream()
                        .anyMatch(line -> line.archived().line() == 0
                                && line.archived().table().equals(root.name()));
        found.stream()
                .filter(line -> line.archived().there() > 0 && line.archived().kind() != ArchivedRows.Kind.MARKS)
                .filter(line -> whole || line.archived().table().equals(root.name()))
                .filter(this::free)
                .forEach(lines::add);
        if (selected != null) {
            // Of a row that stayed only its key is archived beside what it lost, so no condition can be judged.
            Target.Keys keys = target.which() == null ? target.keys() : null;
            lines.removeIf(
                    line -> ofColumns(line) && (keys == null || line.archived().kind() != ArchivedRows.Kind.VALUES));
            stage(root, selected);
            stayed = keys == null ? null : stayed(keys);
        }
        heldRows();
    }

    /** Whether it has columns of rows that stayed, and no whole rows. */
    private static boolean ofColumns(Line line) {
        return line.archived().kind() != ArchivedRows.Kind.ROWS;
    }

    private @Nullable StagingTable stayed(Target.Keys keys) {
        List<Line> values = lines.stream().filter(PurgeOperation::ofColumns).toList();
        if (values.isEmpty()) {
            return null;
        }
        StagingTable stage = StagingTable.ofKeys(session, tables, root);
        stage.fill(values, 0, ArchiveFilter.keys(keys, root, dialect));
        return stage;
    }

    /** What of a line is meant; null for all of it. */
    private @Nullable StagingTable meant(Line line) {
        return ofColumns(line) ? stayed : stages.get(line.archived().table());
    }

    /** Whether no hold is on all of a line. */
    private boolean free(Line line) {
        if (!line.archived().held()) {
            return true;
        }
        Hold hold = deletion.holds().stream()
                .filter(each -> line.archived().receipt().equals(each.receipt())
                        || (each.key().isEmpty()
                                && line.archived().table().toString().equals(each.table())))
                .findFirst()
                .orElseThrow();
        stays(line.archived().table(), line.archived().there(), HeldRows.reason(hold), List.of());
        return false;
    }

    private void stays(TableName table, long rows, String reason, List<Row> sample) {
        if (deletion.skipping()) {
            skipped += rows;
            skippedBy.add(new SkipReason(null, rows, reason, sample));
        } else {
            blockers.add(new Blocker(table, null, rows, reason, sample, List.of()));
        }
    }

    private StagingTable stage(Table table, @Nullable Sql which) {
        StagingTable stage = StagingTable.ofRows(session, tables, table, false, false);
        stages.put(table.name(), stage);
        List<Line> own = lines.stream()
                .filter(line -> line.archived().kind() == ArchivedRows.Kind.ROWS
                        && line.archived().table().equals(table.name()))
                .toList();
        if (!own.isEmpty()) {
            stage.fill(own, 0, which);
        }
        return stage;
    }

    /** A hold on one row keeps its images. */
    private void heldRows() {
        for (Hold hold : deletion.holds()) {
            Table table = hold.key().isEmpty() ? null : known(String.valueOf(hold.table()));
            if (table == null
                    || lines.stream().noneMatch(line -> line.archived().table().equals(table.name()))) {
                continue;
            }
            StagingTable staged = stages.get(table.name());
            StagingTable stage = staged == null ? stage(table, null) : staged;
            Sql which = HeldRows.which(hold, table, dialect, "t");
            StatementContext context = stage.context("looking for held images of");
            long rows = count(stage, which, context);
            if (rows > 0) {
                List<Row> sample = new Rows(session, table, stage.name()).first(Samples.ROWS, which, context);
                stays(table.name(), rows, HeldRows.reason(hold), sample);
                stage.leaveOut(which);
            }
            StagingTable columns = table.name().equals(root.name()) ? stayed : null;
            long more = columns == null ? 0 : count(columns, which, context);
            if (columns != null && more > 0) {
                stays(table.name(), more, HeldRows.reason(hold), List.of());
                columns.leaveOut(which);
            }
        }
    }

    private long count(StagingTable stage, Sql which, StatementContext context) {
        return session.number(
                Sql.of("SELECT COUNT(*) FROM " + stage.name() + " t WHERE ").add(which), context);
    }

    /** Of a table that is not there any more only the name is known. */
    private static boolean gone(Table table) {
        return table.columns().isEmpty();
    }

    private @Nullable Table known(String name) {
        return schema.tables().stream()
                .filter(table -> table.toString().equals(name) && !gone(table))
                .findFirst()
                .orElse(null);
    }

    @Override
    public Impact impact() {
        Fingerprint fingerprint = new Fingerprint(OperationKind.PURGE, false);
        Map<TableName, Long> counts = new LinkedHashMap<>();
        counts.put(root.name(), 0L);
        for (Line line : lines) {
            TableName table = line.archived().table();
            if (meant(line) == null) {
                counts.merge(table, line.archived().there(), Long::sum);
                List<Long> which = List.of(
                        line.receiptNo(),
                        (long) line.archived().line(),
                        line.archived().there());
                fingerprint.effect(Action.PURGE, table, which, null);
            }
        }
        stages.values().forEach(stage -> counted(stage, counts, fingerprint));
        if (stayed != null) {
            counted(stayed, counts, fingerprint);
        }
        counts.values().removeIf(count -> count == 0);
        List<Effect> effects = new ArrayList<>();
        counts.forEach((table, count) -> {
            StagingTable stage = stages.get(table);
            List<Row> sample = stage == null
                    ? List.of()
                    : new Rows(session, stage.table(), stage.name())
                            .first(Samples.ROWS, Sql.of("1 = 1"), stage.context("reading images of"));
            effects.add(new Effect(table, Action.PURGE, null, null, count, sample));
        });
        long all = counts.values().stream().mapToLong(Long::longValue).sum();
        return Impact.builder()
                .effects(effects, Map.of(Action.PURGE, all))
                .blockers(blockers)
                .skipped(new RowSample(skipped, List.of()), skippedBy)
                .fingerprint(deletion.compared() ? fingerprint.shown() : "")
                .build();
    }

    private void counted(StagingTable stage, Map<TableName, Long> counts, Fingerprint fingerprint) {
        TableName table = stage.table().name();
        counts.merge(table, stage.size(), Long::sum);
        if (deletion.compared()) {
            session.forEach(
                    Sql.of("SELECT " + StagingTable.IMAGE + " FROM " + stage.name()),
                    stage.context("reading images of"),
                    row -> fingerprint.effect(Action.PURGE, table, List.of(row.getLong(1)), null));
        }
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        return List.of();
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        List<AffectedKeys> touched = new ArrayList<>();
        for (TableName name :
                lines.stream().map(line -> line.archived().table()).distinct().toList()) {
            Table table = known(name.toString());
            if (table != null) {
                StagingTable staged = stages.get(name);
                StagingTable stage = staged == null ? someOf(table, most) : staged;
                touched.add(new AffectedKeys(
                        name, Action.PURGE, null, Keys.first(session, table, stage.name(), Sql.of("1 = 1"), most)));
            }
        }
        if (stayed != null) {
            touched.add(new AffectedKeys(
                    root.name(), Action.PURGE, null, Keys.first(session, root, stayed.name(), Sql.of("1 = 1"), most)));
        }
        return touched;
    }

    /** What of whole lines the trail is told. */
    private StagingTable someOf(Table table, int most) {
        StagingTable some = StagingTable.ofRows(session, tables, table, false, false);
        List<Line> own = lines.stream()
                .filter(line -> line.archived().kind() == ArchivedRows.Kind.ROWS
                        && line.archived().table().equals(table.name()))
                .toList();
        long missing = most;
        for (Line line : own) {
            if (missing > 0) {
                missing -= some.fillFirst(line, missing);
            }
        }
        return some;
    }

    @Override
    public Stream<Row> rows() {
        if (gone(root)) {
            throw new MisuseException(
                    "Archived rows of table " + root + " cannot be listed, since the table is not in the database.",
                    "Make it again first.");
        }
        StagingTable stage = stages.get(root.name());
        if (stage == null) {
            stage = stage(root, null);
        }
        return new Rows(session, root, stage.name()).stream(Sql.of("1 = 1"), stage.context("reading images of"));
    }

    @Override
    public void run(Impact found) {
        session.pace().begin(Step.REMOVING, found.going());
        Map<TableName, Long> gone = new HashMap<>();
        ImageRemoval removal = new ImageRemoval(session, tables);
        for (Line line : lines) {
            TableName table = line.archived().table();
            session.pace().at(table);
            long removed = removal.remove(line, meant(line));
            session.pace().did(table, removed);
            gone.merge(table, removed, Long::sum);
        }
        for (Effect effect : found.effects()) {
            long removed = gone.getOrDefault(effect.table(), 0L);
            if (removed != effect.rows()) {
                throw new ConcurrentChangeException("Of " + effect.rows() + " images of " + effect.table() + ", "
                        + removed + " were still there when they were to go.");
            }
        }
    }
}
