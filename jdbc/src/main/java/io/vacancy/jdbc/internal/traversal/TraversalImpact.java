// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.RelativeTime;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.Assignment;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.ColumnWrites;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Replacement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Tells what a walk found: counts, a few rows of each effect, blockers and the fingerprint. */
public final class TraversalImpact {

    private final RelationTraversal traversal;
    private final Session session;
    private final TableCounts counts;
    private final Fingerprint fingerprint;
    private final Map<Action, Long> totals = new EnumMap<>(Action.class);

    public TraversalImpact(RelationTraversal traversal) {
        this.traversal = traversal;
        this.session = traversal.session();
        this.counts = new TableCounts(traversal);
        this.fingerprint = new Fingerprint(
                traversal.program().mode(), traversal.plan().archivePolicy().images());
    }

    /** Everything that was found. */
    public Impact impact() {
        List<TableName> roots = traversal.program().roots();
        List<Row> records = traversal.records();
        if (traversal.compared()) {
            traversal.eachLeaf((table, identity) -> fingerprint.effect(
                    action(traversal.program().mode(table.name())), table.name(), identity, becomes(table.name())));
        }
        session.pace().begin(Step.READING, traversal.compared() ? toBeRead() : null);
        if (traversal.compared()) {
            roots.forEach(this::contents);
        }
        List<Effect> effects = effects();
        ActiveCounts activeCounts = counts.activeCounts();
        String print = traversal.compared() ? fingerprint.shown() : "";
        BlockedRowExclusion skipped = traversal.skipped();
        Impact.Builder impact = Impact.builder()
                .records(records)
                .effects(effects, totals)
                .blockers(blockers())
                .missing(missing())
                .selectedFrom(roots.size() == 1 ? List.of() : roots)
                .present(present())
                .warnings(warnings())
                .fingerprint(print)
                .activeCounts(activeCounts);
        if (skipped != null) {
            impact.skipped(skipped.sample(Samples.ROWS), skipped.reasons(Samples.ROWS));
        }
        return impact.build();
    }

    /** What would happen to the selected rows where they stay and lose a link. */
    public Impact unlinking(Relation relation) {
        KeySet selected = traversal.rowsToDelete(traversal.program().root());
        List<Row> records = traversal.records();
        List<Effect> effects = new ArrayList<>();
        if (traversal.compared()) {
            contents(traversal.program().root());
        }
        if (selected.size() > 0) {
            effects.add(effect(
                    selected, Action.SET_NULL, relation.name(), "NULL", selected.size(), () -> selected.contains("t")));
            add(Action.SET_NULL, selected, relation.childColumns());
        }
        return Impact.builder()
                .records(records)
                .effects(effects, totals)
                .missing(missing())
                .present(present())
                .warnings(warnings())
                .fingerprint(traversal.compared() ? fingerprint.shown() : "")
                .build();
    }

    /** Every identity goes into the fingerprint, and the content of the selected rows. */
    private long toBeRead() {
        long identities = Stream.concat(
                        traversal.program().tables().stream().map(traversal::rowsToDelete),
                        traversal.changed().values().stream())
                .mapToLong(KeySet::size)
                .sum();
        long contents = traversal.program().roots().stream()
                .mapToLong(root -> {
                    int records = traversal.selection().records(root).size();
                    return records == 0 ? traversal.rowsToDelete(root).size() : records;
                })
                .sum();
        return identities + contents;
    }

    private Map<TableName, Long> present() {
        Map<TableName, Long> present = new HashMap<>();
        for (TableName table : traversal.plan().counted()) {
            present.put(table, counts.count(table));
        }
        return present;
    }

    /** The same after the removal, with what was only counted then. */
    public Impact afterwards(Impact before) {
        totals.clear();
        List<Effect> effects = effects();
        return before.toBuilder()
                .effects(effects, totals)
                .warnings(warnings())
                .fingerprint("")
                .build();
    }

    private List<Effect> effects() {
        List<Effect> effects = new ArrayList<>();
        // In a circle of tables another one may come before that of the selected rows.
        List<TableName> roots = traversal.program().roots();
        roots.forEach(root -> going(traversal.rowsToDelete(root), effects));
        // What is selected comes first, also where rows of an earlier table only go with it.
        effects.sort(Comparator.comparing(effect -> effect.relation() != null));
        for (TableName table : traversal.program().tables()) {
            if (!roots.contains(table)) {
                going(traversal.rowsToDelete(table), effects);
            }
        }
        traversal.changed().forEach((branch, rows) -> changing(branch, rows, effects));
        return effects;
    }

    /** The selected rows' contents are part of what is answered, however many they are. */
    private void contents(TableName root) {
        KeySet selected = traversal.rowsToDelete(root);
        List<Row> records = traversal.selection().records(root);
        if (selected.size() == records.size()) {
            records.forEach(this::content);
        } else {
            StatementContext context =
                    StatementContext.of("reading", selected.table().name());
            new Rows(session, selected.table()).each(selected.contains("t"), context, this::content);
        }
    }

    private void content(Row row) {
        session.pace().did(row.table(), 1);
        fingerprint.content(row.table(), new ArrayList<>(row.values().values()));
    }

    private void going(KeySet rows, List<Effect> effects) {
        // Several rules of one relation may take rows along; for who reads it they are one line.
        rows.byRelation(traversal.ways()).forEach((name, same) -> {
            long count = rows.count(same);
            effects.add(effect(
                    rows,
                    action(rows),
                    name.isEmpty() ? null : name,
                    becomes(rows.table().name()),
                    count,
                    () -> traversal.going(rows, same)));
        });
        add(action(rows), rows, becomes(rows.table().name()));
    }

    /** What rows of a table that stay hold then: the successor of the selected row, or rows that are blanked; else null. */
    private @Nullable String becomes(TableName table) {
        if (traversal.program().mode(table) == OperationKind.BLANK) {
            // Stamps say who and when, which is no part of what is answered.
            List<Assignment> written = traversal.plan().writes().blanks().getOrDefault(table, List.of());
            return NewValue.written(written);
        }
        Replacement replacement = traversal.plan().replacement();
        return replacement == null
                ? null
                : replacement.opening().stream()
                        .filter(set -> !(set.value() instanceof RelativeTime))
                        .map(set -> set.column() + " " + (set.value() == null ? "NULL" : set.value()))
                        .collect(Collectors.joining(", "));
    }

    private Action action(KeySet rows) {
        return action(traversal.program().mode(rows.table().name()));
    }

    /** What happens to rows that go in a mode. */
    public static Action action(OperationKind mode) {
        return switch (mode) {
            case ERASE, TRUNCATE, MERGE, FORGET -> Action.DELETE;
            case UNLINK_ORPHANS -> Action.SET_NULL;
            case SOFT_DELETE -> Action.SOFT_DELETE;
            case BLANK -> Action.BLANK;
            case RESTORE -> Action.RESTORE;
            case REPLACE -> Action.REPLACE;
            case PURGE -> Action.PURGE;
            case DROP -> Action.DROP;
        };
    }

    private void changing(RelationStep branch, KeySet rows, List<Effect> effects) {
        if (rows.size() > 0) {
            Action action = NewValue.action(branch);
            String becomes = NewValue.written(branch, traversal);
            effects.add(effect(rows, action, branch.relation().name(), becomes, rows.size(), () -> rows.contains("t")));
            add(action, rows, branch.relation().childColumns() + " " + becomes);
        }
    }

    private void add(Action action, KeySet rows, @Nullable Object newValue) {
        totals.merge(action, rows.size(), Long::sum);
        if (traversal.compared() && traversal.leavesBy(rows.table().name()).isEmpty()) {
            TableName table = rows.table().name();
            rows.forEachIdentity(identity -> {
                session.pace().did(table, 1);
                fingerprint.effect(action, table, identity, newValue);
            });
        }
        totals.remove(action, 0L);
    }

    private Effect effect(
            KeySet rows,
            Action action,
            @Nullable String relation,
            @Nullable String becomes,
            long count,
            Supplier<Sql> which) {
        if (!traversal.plan().shown()) {
            return new Effect(rows.table().name(), action, relation, becomes, count, List.of());
        }
        StatementContext context = StatementContext.of("reading", rows.table().name(), relation);
        return new Effect(rows.table().name(), action, relation, becomes, count, sample(rows, count, which, context));
    }

    /** A few rows; of the selected ones, where they are few, without asking for them once more. */
    private List<Row> sample(KeySet rows, long count, Supplier<Sql> which, StatementContext context) {
        TableName table = rows.table().name();
        boolean root = traversal.program().roots().contains(table) && rows == traversal.rowsToDelete(table);
        List<Row> records = root ? traversal.selection().records(table) : List.of();
        boolean read = root && records.size() == count;
        return read
                ? records.stream().limit(Samples.ROWS).toList()
                : new Rows(session, rows.table()).first(Samples.ROWS, which.get(), context);
    }

    private List<Blocker> blockers() {
        List<Blocker> blockers = new ArrayList<>();
        for (FoundBlocker blocker : BlockerQuery.of(traversal)) {
            Table table = traversal.schema().table(blocker.table());
            Blocker found = blocker.found(
                    session,
                    table,
                    session.dialect().syntax().table(table.name()),
                    true,
                    traversal.terms().inScope(table.name()),
                    traversal.program().root());
            if (found != null) {
                blockers.add(found);
            }
        }
        return blockers;
    }

    private RowSample missing() {
        long missing = 0;
        List<Row> sample = new ArrayList<>();
        for (TableName root : traversal.program().roots()) {
            long gone = traversal.selection().missing(root);
            if (gone > 0 && sample.size() < Samples.RECORDS) {
                try (Stream<Row> rows = traversal.selection().missing(root, Samples.RECORDS - sample.size())) {
                    sample.addAll(rows.toList());
                }
            }
            missing += gone;
        }
        return missing == 0 ? RowSample.NONE : new RowSample(missing, sample);
    }

    private List<String> warnings() {
        List<String> warnings = new ArrayList<>();
        Set<TableName> touched = new HashSet<>();
        for (TableName table : traversal.program().tables()) {
            warn(traversal.rowsToDelete(table), touched, warnings);
        }
        traversal.changed().values().forEach(rows -> warn(rows, touched, warnings));
        withoutKey(warnings);
        for (TableName table : traversal.program().tables()) {
            boolean marks = traversal.compared() && traversal.program().mode(table) == OperationKind.SOFT_DELETE;
            long later = marks ? LaterVersions.of(traversal, table) : 0;
            if (later > 0) {
                warnings.add(CountText.rows(later) + " of " + table + (later == 1 ? " begins" : " begin")
                        + " later and would come into force all the same.");
            }
        }
        if (traversal.compared() && traversal.program().mode() == OperationKind.RESTORE) {
            traversal.program().branches().forEach(branch -> stayMarked(branch, warnings));
        }
        for (ColumnWrites.Parent parent :
                traversal.compared() ? traversal.plan().writes().parents() : List.<ColumnWrites.Parent>of()) {
            Sql which = traversal.conditions().touchedParents(parent.relation());
            TableName table = parent.relation().parent();
            long stamped = which == null ? 0 : counts.count(table, which);
            if (stamped > 0) {
                warnings.add(CountText.rows(stamped) + " of " + table + (stamped == 1 ? " is" : " are")
                        + " stamped as changed, by " + parent.relation() + ".");
            }
        }
        return warnings;
    }

    /** What is changed in rows that stay cannot be put back where nothing names the row later. */
    private void withoutKey(List<String> warnings) {
        Stream<KeySet> stay = Stream.concat(
                traversal.changed().values().stream(),
                traversal.program().tables().stream()
                        .filter(table -> traversal.program().mode(table) == OperationKind.BLANK)
                        .map(traversal::rowsToDelete));
        stay.filter(rows -> rows.size() > 0 && !rows.table().identity().lasts())
                .map(rows -> rows.table().name())
                .distinct()
                .filter(table -> traversal.plan().archivePolicy().keeps(table))
                .forEach(table -> warnings.add("Rows of " + table
                        + " have no key by which they could be found again, so what they hold is not archived."));
    }

    /** What refers to rows that come back, and was marked for itself or is not known to have been marked with them. */
    private void stayMarked(RelationStep branch, List<String> warnings) {
        TableName child = branch.relation().child();
        long left = traversal.rowsToDelete(branch.relation().parent()).size() == 0
                ? 0
                : counts.count(child, traversal.conditions().stayMarked(branch));
        if (left > 0) {
            warnings.add(
                    CountText.rows(left) + " of " + child + (left == 1 ? " refers" : " refer") + " to them through "
                            + branch.relation() + " and " + (left == 1 ? "stays" : "stay")
                            + " soft-deleted: nothing says that " + (left == 1 ? "it was" : "they were")
                            + " soft-deleted with them.");
        }
    }

    private static void warn(KeySet rows, Set<TableName> touched, List<String> warnings) {
        List<String> triggers = rows.table().triggers();
        if (rows.size() > 0 && !triggers.isEmpty() && touched.add(rows.table().name())) {
            warnings.add("Table " + rows.table() + " has "
                    + (triggers.size() == 1 ? "the trigger " : "the triggers ") + String.join(", ", triggers)
                    + ", which may change more than is shown here.");
        }
    }
}
