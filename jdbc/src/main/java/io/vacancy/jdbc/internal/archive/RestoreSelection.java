// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.sql.Referring;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Blocker;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Which images become rows again: staged table by table, with the relations through which they were found, and the
 * links that are put back.
 */
final class RestoreSelection {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final ExecutionPlan deletion;
    private final Schema schema;
    private final ArchiveSelection images;
    private final boolean everything;
    private final ConditionCompiler terms;
    private final Table root;
    private final Map<TableName, StagingTable> rows = new LinkedHashMap<>();
    private final List<ColumnRestore> links = new ArrayList<>();
    private final List<String> relations = new ArrayList<>(List.of(""));
    private final List<Line> lines = new ArrayList<>();
    private final List<Blocker> unknown = new ArrayList<>();
    private final List<String> warnings = new ArrayList<>();
    private boolean stepwise;

    /**
     * @param from which archived rows are meant
     * @param everything whether all of them come back, whatever the target selects of other rows
     * @param lock whether the receipts are locked until the transaction ends
     */
    RestoreSelection(
            Session session,
            OwnTables tables,
            ExecutionPlan deletion,
            ArchiveSelection from,
            boolean everything,
            boolean lock,
            ConditionCompiler terms) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.deletion = deletion;
        this.schema = deletion.program().schema();
        this.images = from;
        this.everything = everything;
        this.terms = terms;
        this.root = schema.table(deletion.program().root());
        SavedSource saved = images.saved();
        if (saved != null) {
            read(saved);
        } else {
            read(lock);
        }
    }

    private void read(boolean lock) {
        ArchiveReader archived = new ArchiveReader(session, tables, schema, deletion.scopes());
        ArchiveQuery query = ArchiveQuery.all().receipts(images.receipts());
        if (images.receipts().isEmpty()) {
            lines.addAll(archived.list(query.of(root.toString())));
        } else {
            lines.addAll(archived.list(query));
        }
        if (lock) {
            lock();
        }
        if (whole()) {
            if (!unchanged(ArchiveIntegrity.whole(lines))) {
                return;
            }
            lines.stream()
                    .filter(line -> line.archived().kind() == ArchivedRows.Kind.ROWS)
                    .forEach(this::whole);
            changed(ArchivedRows.Kind.LINKS, column -> null);
            changed(ArchivedRows.Kind.VALUES, column -> null);
            return;
        }
        List<Line> own = of(root.name());
        if (own.isEmpty()) {
            return;
        }
        stepwise = true;
        stage(root.name()).fill(own, 0, selected());
        if (images.receipts().isEmpty()) {
            // What hung on them went under the same receipts.
            List<ReceiptId> found = receiptsOf(stage(root.name()), own);
            lines.clear();
            if (!found.isEmpty()) {
                lines.addAll(archived.list(ArchiveQuery.all().receipts(found)));
            }
        }
        follow();
        changed(ArchivedRows.Kind.LINKS, this::toWhatComesBack);
        changed(ArchivedRows.Kind.VALUES, this::ofWhatIsPutBack);
        List<StagingTable> stages = new ArrayList<>(rows.values());
        links.forEach(link -> stages.add(link.stage()));
        unchanged(ArchiveIntegrity.used(stages, session));
    }

    /** What was changed since it was archived is not what comes back. */
    private boolean unchanged(Map<ArchiveIntegrity.Place, Long> used) {
        ArchiveIntegrity integrity = new ArchiveIntegrity(session, tables);
        integrity.check(lines, used);
        unknown.addAll(integrity.changed());
        warnings.addAll(integrity.warnings());
        return integrity.changed().isEmpty();
    }

    /** Everything of the receipts is meant where the rows that were selected then are all selected now. */
    private boolean whole() {
        Target target = deletion.target();
        boolean everyRow = target.keys() == null && target.which() == null;
        boolean first = lines.stream()
                .anyMatch(line ->
                        line.archived().line() == 0 && line.archived().table().equals(root.name()));
        return everything || (everyRow && !images.receipts().isEmpty() && first);
    }

    private void whole(Line line) {
        TableName name = line.archived().table();
        if (!known(line.archived())) {
            return;
        }
        StagingTable stage = stage(name);
        List<Line> alike = of(name);
        // All lines of a table at once, so that of each key the newest is taken.
        if (alike.get(0).equals(line)) {
            for (Map.Entry<Integer, List<Line>> via : alike.stream()
                    .collect(Collectors.groupingBy(
                            each -> via(each.archived().relation()), LinkedHashMap::new, Collectors.toList()))
                    .entrySet()) {
                Sql further =
                        via.getValue().size() == alike.size() || stage.key().isEmpty()
                                ? null
                                : Sql.of("NOT EXISTS (SELECT 1 FROM " + stage.name() + " o WHERE "
                                        + stage.same("o", "t") + ")");
                stage.fill(via.getValue(), via.getKey(), further);
            }
        }
    }

    private boolean known(ArchivedRows archived) {
        boolean there =
                schema.tables().stream().anyMatch(table -> table.name().equals(archived.table()) && !table.view());
        if (!there && unknown.stream().noneMatch(blocker -> blocker.table().equals(archived.table()))) {
            unknown.add(new Blocker(
                    archived.table(),
                    null,
                    archived.left(),
                    "table " + archived.table() + " is no longer there",
                    List.of(),
                    List.of()));
        }
        return there;
    }

    private List<Line> of(TableName table) {
        return lines.stream()
                .filter(line -> line.archived().kind() == ArchivedRows.Kind.ROWS
                        && line.archived().table().equals(table))
                .toList();
    }

    private StagingTable stage(TableName table) {
        return rows.computeIfAbsent(
                table, name -> StagingTable.ofRows(session, tables, schema.table(name), true, stepwise));
    }

    private int via(@Nullable String relation) {
        String name = relation == null ? "" : relation;
        if (!relations.contains(name)) {
            relations.add(name);
        }
        return relations.indexOf(name);
    }

    /** Nobody else brings the same back meanwhile. */
    private void lock() {
        String numbers = lines.stream()
                .map(line -> Long.toString(line.receiptNo()))
                .distinct()
                .collect(Collectors.joining(", "));
        if (!numbers.isEmpty()) {
            session.query(
                    Sql.of("SELECT receipt_no FROM " + dialect.syntax().table(tables.table("receipt"))
                            + " WHERE receipt_no IN (" + numbers + ") ORDER BY receipt_no"
                            + dialect.locking().forUpdate()),
                    new StatementContext("locking receipts", null, null),
                    row -> row.getLong(1));
        }
    }

    /** What holds for the selected rows, as row t. */
    private @Nullable Sql selected() {
        return ArchiveFilter.of(deletion, root, dialect, terms);
    }

    private List<ReceiptId> receiptsOf(StagingTable stage, List<Line> own) {
        List<Long> numbers = session.query(
                Sql.of("SELECT DISTINCT " + StagingTable.RECEIPT + " FROM " + stage.name()),
                stage.context("reading receipts of"),
                row -> row.getLong(1));
        return own.stream()
                .filter(line -> numbers.contains(line.receiptNo()))
                .map(line -> line.archived().receipt())
                .distinct()
                .toList();
    }

    /** With a row comes back what hung on it and went under the same receipt. */
    private void follow() {
        boolean more = true;
        while (more) {
            more = false;
            for (Relation relation : schema.relations()) {
                StagingTable parents = rows.get(relation.parent());
                List<Line> children = of(relation.child());
                if (parents == null
                        || children.isEmpty()
                        || !known(children.get(0).archived())) {
                    continue;
                }
                StagingTable stage = stage(relation.child());
                Sql hanging = Sql.of("EXISTS (SELECT 1 FROM " + parents.name() + " p WHERE "
                                + dialect.syntax().joined(relation, "p", "t") + " AND p." + StagingTable.RECEIPT
                                + " = t."
                                + StagingTable.RECEIPT
                                + ") AND " + stage.notHere())
                        .add(Referring.andKind(relation, dialect.syntax(), "t"));
                more |= stage.fill(children, via(relation.name()), hanging) > 0;
            }
        }
    }

    private interface Further {
        @Nullable
        Sql of(ColumnRestore column);
    }

    private void changed(ArchivedRows.Kind kind, Further further) {
        for (Line line : lines) {
            ColumnRestore changed =
                    line.archived().kind() == kind && known(line.archived()) ? changed(line.archived()) : null;
            if (changed != null) {
                changed.stage().fill(List.of(line), via(changed.relationName()), further.of(changed));
            }
        }
    }

    private @Nullable ColumnRestore changed(ArchivedRows archived) {
        boolean link = archived.kind() == ArchivedRows.Kind.LINKS;
        Table table = schema.table(archived.table());
        List<String> columns = RestoreBlockerQuery.changedColumns(table, archived);
        Relation relation = schema.relationsFrom(archived.table()).stream()
                .filter(each -> each.name().equals(archived.relation()))
                .findFirst()
                .orElse(null);
        if ((link && relation == null) || columns.isEmpty() || !table.identity().lasts()) {
            warnings.add(
                    link
                            ? "The link " + archived.relation()
                                    + " is no longer there, and nothing is put back into it."
                            : "What was blanked of " + table + " has no columns any more, and is not put back.");
            return null;
        }
        for (ColumnRestore known : links) {
            if (known.kind() == archived.kind()
                    && Objects.equals(known.relation(), relation)
                    && known.columns().equals(columns)) {
                return known;
            }
        }
        ColumnRestore changed = new ColumnRestore(
                StagingTable.ofLinks(session, tables, table, columns), archived.kind(), relation, columns);
        links.add(changed);
        return changed;
    }

    private Sql toWhatComesBack(ColumnRestore link) {
        StagingTable parents =
                link.relation() == null ? null : rows.get(link.relation().parent());
        return parents == null
                ? Sql.of("1 = 0")
                : Sql.of("EXISTS (SELECT 1 FROM " + parents.name() + " p WHERE " + link.refersTo("p", dialect) + ")");
    }

    /** What was blanked in child rows comes back with their parents, as the link does that was taken from them. */
    private Sql ofWhatIsPutBack(ColumnRestore values) {
        Sql which = new Sql();
        if (values.relation() != null) {
            which.add(toWhatComesBack(values));
        }
        for (ColumnRestore link : links) {
            boolean same =
                    link.link() && link.stage().table().equals(values.stage().table());
            if (same && link.relation() != null && link.relation().equals(values.relation())) {
                which.add(" OR EXISTS (SELECT 1 FROM " + link.stage().name() + " s WHERE "
                        + values.stage().same("s", "t") + ")");
            }
        }
        return which.text().isEmpty() ? Sql.of("1 = 0") : Sql.of("(").add(which).add(")");
    }

    /** From a copy outside the database: everything that it has. */
    private void read(SavedSource saved) {
        if (!saved.authenticated()) {
            warnings.add("The saved copy " + saved.name()
                    + " is not sealed with a secret: nothing proves that its rows are those that were deleted.");
        }
        Map<Integer, ArchivedRows> byNumber = new LinkedHashMap<>();
        Map<Integer, StagingTable> stages = new LinkedHashMap<>();
        for (ArchivedRows archived : saved.lines()) {
            if (known(archived)) {
                ColumnRestore link = archived.kind() == ArchivedRows.Kind.ROWS ? null : changed(archived);
                byNumber.put(archived.line(), archived);
                if (archived.kind() == ArchivedRows.Kind.ROWS) {
                    stages.put(archived.line(), stage(archived.table()));
                } else if (link != null) {
                    stages.put(archived.line(), link.stage());
                }
            }
        }
        AtomicLong number = new AtomicLong();
        saved.each(schema, (line, row) -> {
            StagingTable stage = stages.get(line);
            ArchivedRows archived = byNumber.get(line);
            if (stage != null && archived != null) {
                stage.add(
                        row,
                        archived,
                        number.incrementAndGet(),
                        via(archived.kind() == ArchivedRows.Kind.LINKS ? "" : archived.relation()));
            }
        });
        stages.values().forEach(StagingTable::flush);
    }

    /** The stages of what comes back, by table, in the order in which they were found. */
    Map<TableName, StagingTable> rows() {
        return rows;
    }

    /** The stage of the selected rows; null where there are none. */
    @Nullable
    StagingTable selectedRows() {
        return rows.get(root.name());
    }

    /** What rows that stayed get back: their links first. */
    List<ColumnRestore> links() {
        return links;
    }

    /** The relation through which rows were found, by its number in a stage; null of those that were selected. */
    @Nullable
    String relation(int via) {
        String name = relations.get(via);
        return name.isEmpty() ? null : name;
    }

    /** The lines of the archive that images were taken of; none where they are from a saved file. */
    List<Line> lines() {
        return lines;
    }

    /** Tables that are no longer there. */
    List<Blocker> unknown() {
        return unknown;
    }

    /** Links that are no longer there. */
    List<String> warnings() {
        return warnings;
    }
}
