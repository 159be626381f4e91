// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.access.Permission;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.condition.RelatedRows;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.request.Mode;
import io.vacancy.request.Operation;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.Store;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import io.vacancy.spi.plan.PlannedOperation.Cascade;
import io.vacancy.spi.plan.PlannedOperation.Purge;
import io.vacancy.spi.plan.PlannedOperation.RestoreArchived;
import io.vacancy.spi.plan.PlannedOperation.RestoreMarked;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Decides what a request leaves to the rule book, to the archive, or to a receipt. */
public record RequestResolver(
        ResolvedRules rules,
        Store store,
        AccessRights visible,
        ExecutionMonitor monitor,
        Clock clock,
        Function<ResolvedRequest, ExecutionPlan> alone,
        Function<Schema, List<Problem>> unfit) {

    public ResolvedRequest resolve(Request request) {
        Operation operation = request.operation();
        if (operation instanceof Operation.Restore restore) {
            return restore(request, restore);
        }
        if (operation instanceof Operation.Purge purge) {
            return purge(request, purge);
        }
        if (operation instanceof Operation.UnlinkOrphans unlink) {
            Relation relation = rules.schema().relation(unlink.relation());
            Table child = rules.schema().table(relation.child());
            return resolved(
                    request,
                    OperationKind.UNLINK_ORPHANS,
                    child,
                    new Selection.Orphans(relation.name()),
                    new PlannedOperation.Unlink(relation));
        }
        Table table = table(request);
        if (operation instanceof Operation.Truncate) {
            return resolved(
                    request, OperationKind.TRUNCATE, table, selection(request), new PlannedOperation.Truncate());
        }
        if (operation instanceof Operation.Drop drop) {
            return drop(request, drop, table);
        }
        if (operation instanceof Operation.Merge merge) {
            return merge(request, merge, table);
        }
        return resolved(request, kind(request, table), table, selection(request), new Cascade())
                .plus(others(request, table));
    }

    private List<ResolvedRequest> others(Request request, Table first) {
        List<Table> tables = new ArrayList<>(List.of(first));
        List<ResolvedRequest> others = new ArrayList<>();
        for (Request other : request.others()) {
            Table table = table(other);
            if (tables.contains(table)) {
                throw new MisuseException(
                        "Rows of " + table + " are selected twice in one request.",
                        "Select them by one condition, with or.");
            }
            tables.add(table);
            Request whole = request.includesMarked() ? other.includingMarked() : other;
            others.add(resolved(whole, kind(whole, table), table, selection(other), new Cascade()));
        }
        return others;
    }

    private ResolvedRequest drop(Request request, Operation.Drop drop, Table table) {
        if (table.view()) {
            throw new MisuseException(
                    "\"" + table + "\" is a view, and has no rows of its own.", "Drop it in the database itself.");
        }
        String column =
                drop.column() == null ? null : table.column(drop.column()).name();
        if (column != null && table.columns().size() == 1) {
            throw new MisuseException(
                    "Column " + column + " is all that table " + table + " has.", "Drop the table instead.");
        }
        SchemaWithout left = new SchemaWithout(store.schema(), table.name(), column);
        List<String> complaints =
                unfit.apply(left.schema()).stream().map(Problem::toString).toList();
        return resolved(
                request, OperationKind.DROP, table, selection(request), new PlannedOperation.Drop(column, complaints));
    }

    /** A deletion is one of two operations, as the rule book says now. */
    private OperationKind kind(Request request, Table table) {
        Operation operation = request.operation();
        if (operation instanceof Operation.Replace) {
            return OperationKind.REPLACE;
        }
        if (operation instanceof Operation.Blank) {
            rules.blanks(table.name());
            return OperationKind.BLANK;
        }
        if (operation instanceof Operation.Forget) {
            rules.modeOfPerson(table.name());
            return OperationKind.FORGET;
        }
        if (operation instanceof Operation.Erase) {
            return OperationKind.ERASE;
        }
        Mode mode = operation instanceof Operation.SoftDelete ? Mode.SOFT_DELETE : rules.usualMode(table.name());
        if (mode == Mode.SOFT_DELETE && request.includesMarked()) {
            throw new MisuseException(
                    "Rows of " + table + " are soft-deleted, and those that are marked already cannot be included.",
                    "Erase them instead, or leave them out.");
        }
        return mode.operation();
    }

    private ResolvedRequest resolved(
            Request request, OperationKind kind, Table table, Selection selection, PlannedOperation planned) {
        return new ResolvedRequest(
                request, kind, table, selection, Narrowing.of(request), planned, request.rules(), null, List.of());
    }

    /** The row that stays is read now; that it is still there and fits is seen again under the locks. */
    private ResolvedRequest merge(Request request, Operation.Merge merge, Table table) {
        visible.wants(table, Permission.Act.LOOK);
        Request staying = Request.erase(table.toString()).key(merge.into());
        ResolvedRequest found = resolved(staying, OperationKind.ERASE, table, selection(staying), new Cascade());
        Row into;
        try (Stream<Row> rows = store.rows(alone.apply(found), table.name(), monitor)) {
            into = rows.findFirst()
                    .orElseThrow(() -> new NothingLeftException(
                            "Table " + table + " has no row " + merge.into() + " to merge into"
                                    + (rules.marker(table.name()) == null ? "." : ", or it is marked as deleted."),
                            "Give the key of the row that stays."));
        }
        ResolvedMerge resolved = new MergeResolver(rules.schema(), table, merge, into).resolve();
        for (String written : request.rules().keySet()) {
            if (rules.schema().relation(written).parent().equals(table.name())) {
                throw new MisuseException(
                        "A rule on " + written
                                + " is asked for, and a merge gives its child rows to the row that stays.",
                        "Leave it out; rules are for what is deleted with duplicates.");
            }
        }
        Map<String, String> told = new LinkedHashMap<>(request.rules());
        resolved.duplicates().forEach(relation -> told.put(relation.name(), "cascade"));
        return new ResolvedRequest(
                request,
                OperationKind.MERGE,
                table,
                selection(request),
                Narrowing.of(request),
                new Cascade(),
                told,
                resolved,
                List.of());
    }

    private Table table(Request request) {
        return rules.schema().table(Objects.requireNonNull(request.table()));
    }

    private static Selection selection(Request request) {
        return Objects.requireNonNull(request.selection());
    }

    private ResolvedRequest purge(Request request, Operation.Purge purge) {
        ReceiptId receipt = purge.receipt();
        if (receipt != null) {
            ArchivedRows first = archived(ArchiveQuery.all().withUsed(), receipt).stream()
                    .filter(line -> line.there() > 0 && line.kind() != ArchivedRows.Kind.MARKS)
                    .findFirst()
                    .orElseThrow(() -> new NothingLeftException(
                            "Nothing is archived under receipt " + receipt + ".",
                            "Nothing was archived under it, or it is purged."));
            return everything(request, OperationKind.PURGE, first, new Purge(ArchiveSelection.of(receipt)));
        }
        ArchiveSelection which = purge.due() ? ArchiveSelection.due(clock.instant()) : ArchiveSelection.any();
        return resolved(request, OperationKind.PURGE, table(request), selection(request), new Purge(which));
    }

    private ResolvedRequest everything(
            Request request, OperationKind kind, ArchivedRows first, PlannedOperation planned) {
        if (!rules.schema().has(first.table().toString())) {
            throw new MisuseException(
                    "Table " + first.table() + ", of which rows are archived under receipt " + first.receipt()
                            + ", is not in the database.",
                    "Make it again first; where it was dropped by Vacancy, its receipt has the definition.");
        }
        Table table = rules.schema().table(first.table());
        return resolved(request, kind, table, new Selection.EveryRow(), planned);
    }

    private ResolvedRequest restore(Request request, Operation.Restore restore) {
        SavedSource source = restore.source();
        if (source != null) {
            ArchivedRows first = source.lines().stream()
                    .findFirst()
                    .orElseThrow(
                            () -> new MisuseException("The saved copy " + source.name() + " has no rows to restore."));
            wantsNamed(source, restore.into());
            return everything(request, OperationKind.RESTORE, first, new RestoreArchived(ArchiveSelection.of(source)));
        }
        ReceiptId receipt = restore.receipt();
        if (receipt == null) {
            return restoreOfTable(request, table(request));
        }
        ArchiveSelection images = ArchiveSelection.of(receipt);
        List<ArchivedRows> lines = archived(ArchiveQuery.all(), receipt);
        List<ArchivedRows> marks = of(lines, ArchivedRows.Kind.MARKS);
        if (request.table() != null) {
            Table table = table(request);
            boolean marked = marks.stream().anyMatch(line -> line.table().equals(table.name()));
            return resolved(
                    request,
                    OperationKind.RESTORE,
                    table,
                    selection(request),
                    marked ? new RestoreMarked(receipt, null) : new RestoreArchived(images));
        }
        List<ArchivedRows> archived = lines.stream()
                .filter(line -> line.kind() != ArchivedRows.Kind.MARKS)
                .toList();
        ArchiveSelection beside = archived.isEmpty() ? null : images;
        if (!marks.isEmpty()) {
            return everything(request, OperationKind.RESTORE, marks.get(0), new RestoreMarked(receipt, beside))
                    .plus(marks.stream()
                            .filter(line -> line.relation() == null
                                    && !line.table().equals(marks.get(0).table()))
                            .map(line ->
                                    everything(request, OperationKind.RESTORE, line, new RestoreMarked(receipt, null)))
                            .toList());
        }
        ResolvedRequest marked = markedUnder(request, receipt, new RestoreMarked(null, beside));
        if (marked != null) {
            return marked;
        }
        if (archived.isEmpty()) {
            throw new NothingLeftException(
                    "Nothing can be restored by receipt " + receipt + ".",
                    "Nothing was archived or marked under it, or it was restored, or it is purged.");
        }
        return everything(request, OperationKind.RESTORE, archived.get(0), new RestoreArchived(images));
    }

    /** Whoever writes a copy by hand must not decide which tables it is for. */
    private void wantsNamed(SavedSource source, List<String> into) {
        List<TableName> named =
                into.stream().map(name -> rules.schema().table(name).name()).toList();
        if (named.isEmpty() && source.authenticated()) {
            return;
        }
        String others = source.lines().stream()
                .map(ArchivedRows::table)
                .filter(table -> !named.contains(table))
                .distinct()
                .map(TableName::toString)
                .collect(Collectors.joining(", "));
        if (others.isEmpty()) {
            return;
        }
        throw named.isEmpty()
                ? new MisuseException(
                        "The saved copy " + source.name()
                                + " is not sealed with a secret, so anybody may have written it, and it has rows of "
                                + others + ".",
                        "Name the tables that it may be restored into, or give the secret that it was saved with.")
                : new MisuseException(
                        "The saved copy " + source.name() + " has rows of " + others
                                + " too, which is not among the tables that it may be restored into.",
                        "Name it as well if that is meant.");
    }

    /** Soft-deleted rows are restored first, then archived ones. */
    private ResolvedRequest restoreOfTable(Request request, Table table) {
        ResolvedRequest archived = resolved(
                request, OperationKind.RESTORE, table, selection(request), new RestoreArchived(ArchiveSelection.any()));
        ResolvedRequest marked =
                resolved(request, OperationKind.RESTORE, table, selection(request), new RestoreMarked(null, null));
        if (rules.marker(table.name()) == null) {
            return archived;
        }
        if (!store.archive().ready()) {
            return marked;
        }
        return store.analyze(alone.apply(marked), monitor).selected() > 0 ? marked : archived;
    }

    private static List<ArchivedRows> of(List<ArchivedRows> lines, ArchivedRows.Kind kind) {
        return lines.stream().filter(line -> line.kind() == kind).toList();
    }

    /** In the order of its lines: the selected table first. */
    private List<ArchivedRows> archived(ArchiveQuery which, ReceiptId receipt) {
        if (!store.archive().ready()) {
            return List.of();
        }
        try (Stream<ArchivedRows> archived = store.archive().archived(which.receipts(List.of(receipt)))) {
            return archived.filter(visible::sees)
                    .sorted(Comparator.comparing(ArchivedRows::line))
                    .toList();
        }
    }

    /** The rows that were selected once: those that nothing else of the receipt leads to; null for none. */
    private @Nullable ResolvedRequest markedUnder(Request request, ReceiptId receipt, PlannedOperation planned) {
        Map<TableName, Condition> under = new LinkedHashMap<>();
        for (TableName table : rules.marked()) {
            ResolvedMarker marker = rules.marker(table);
            String column = marker == null ? null : marker.receiptColumn();
            if (column != null) {
                under.put(table, ColumnRef.column(column).equalTo(receipt.value()));
            }
        }
        List<TableName> found = marked(under);
        Map<TableName, Condition> selected = new LinkedHashMap<>();
        for (TableName table : found) {
            Condition ofReceipt = Objects.requireNonNull(under.get(table));
            for (Relation relation : rules.schema().relationsFrom(table)) {
                boolean followed = !relation.toItself() && found.contains(relation.parent()) && comesBackWith(relation);
                if (followed) {
                    Condition parents = Objects.requireNonNull(under.get(relation.parent()));
                    ofReceipt =
                            ofReceipt.and(RelatedRows.parent(relation.name()).notExists(parents));
                }
            }
            selected.put(table, ofReceipt);
        }
        List<ResolvedRequest> first = marked(selected).stream()
                .map(table -> resolved(
                        request,
                        OperationKind.RESTORE,
                        rules.schema().table(table),
                        new Selection.ByCondition(Objects.requireNonNull(selected.get(table))),
                        planned))
                .toList();
        return first.isEmpty() ? null : first.get(0).plus(first.subList(1, first.size()));
    }

    /** The tables that have marked rows which a condition holds for. */
    private List<TableName> marked(Map<TableName, Condition> which) {
        Map<TableName, Condition> marked = new LinkedHashMap<>();
        which.forEach((name, condition) -> {
            Table table = rules.schema().table(name);
            Condition scope = visible.condition(table);
            Condition deleted = condition
                    .readFor(table, rules.schema())
                    .and(new Condition.IsTrue(rules.requiredMarker(name).deleted()));
            marked.put(name, scope == null ? deleted : deleted.and(new Condition.IsTrue(scope)));
        });
        Map<TableName, Long> counts = store.counts(List.copyOf(marked.keySet()), marked, monitor);
        return which.keySet().stream()
                .filter(table -> counts.getOrDefault(table, 0L) > 0)
                .toList();
    }

    /** Whether child rows that were marked under the same receipt come back with their parent. */
    private boolean comesBackWith(Relation relation) {
        return rules.rulesFor(relation, OperationKind.SOFT_DELETE).stream()
                .anyMatch(rule -> rule.action() instanceof RuleAction.Cascade);
    }
}
