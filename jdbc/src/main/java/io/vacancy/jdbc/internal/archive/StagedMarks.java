// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.ArchivedMarks;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Impact;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.MarkerPredicates;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.LongSupplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Archived marks beside the tables whose rows they are of. A row that was marked again and again, and made active by
 * others in between, has several; only the newest says under which receipt it is marked.
 */
public final class StagedMarks implements ArchivedMarks {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final ExecutionPlan plan;
    private final @Nullable ReceiptId under;
    private final LongSupplier receiptNo;
    private final ArchiveReader reader;
    private final Map<TableName, StagingTable> stages = new LinkedHashMap<>();
    private final List<Line> lines = new ArrayList<>();

    /**
     * @param under the receipt that is meant, or null where the selected rows say so
     * @param receiptNo the number of the receipt under which they come back, asked for when they do
     */
    public StagedMarks(
            Session session, OwnTables tables, ExecutionPlan plan, @Nullable ReceiptId under, LongSupplier receiptNo) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.plan = plan;
        this.under = under;
        this.receiptNo = receiptNo;
        this.reader = new ArchiveReader(session, tables, plan.program().schema(), plan.scopes());
        if (under != null) {
            SortedSet<Long> numbers = reader.list(ArchiveQuery.all().receipts(List.of(under))).stream()
                    .map(Line::receiptNo)
                    .collect(Collectors.toCollection(TreeSet::new));
            stage(numbers);
        }
    }

    @Override
    public @Nullable Sql narrowing(TableName table) {
        if (under == null) {
            return null;
        }
        StagingTable stage = stages.get(table);
        return stage == null ? Sql.of("1 = 0") : Sql.of(marked(stage, "t"));
    }

    @Override
    public void of(KeySet selected) {
        List<Line> own = selected.size() == 0 || under != null
                ? List.of()
                : marks(selected.table().name());
        if (own.isEmpty()) {
            return;
        }
        StagingTable stage = stage(selected.table());
        fill(stage, own, stage.rowsIn(selected));
        stage(new TreeSet<>(session.query(
                Sql.of("SELECT DISTINCT " + StagingTable.RECEIPT + " FROM " + stage.name()),
                stage.context("reading receipts of"),
                row -> row.getLong(1))));
    }

    /** All that is marked under some receipts, in every table. */
    private void stage(SortedSet<Long> receipts) {
        if (receipts.isEmpty()) {
            return;
        }
        long first = receipts.first();
        String numbers = receipts.stream().map(String::valueOf).collect(Collectors.joining(", "));
        for (TableName name : plan.program().tables()) {
            List<Line> since = marks(name).stream()
                    .filter(line -> line.receiptNo() >= first)
                    .toList();
            if (since.stream().anyMatch(line -> receipts.contains(line.receiptNo()))) {
                StagingTable stage = stage(plan.program().schema().table(name));
                fill(
                        stage,
                        since,
                        Sql.of("NOT EXISTS (SELECT 1 FROM " + stage.name() + " o WHERE " + stage.same("o", "t") + ")"));
                stage.leaveOut(Sql.of(StagingTable.RECEIPT + " NOT IN (" + numbers + ")"));
            }
        }
    }

    private List<Line> marks(TableName table) {
        return plan.marked().containsKey(table)
                ? reader.list(ArchiveQuery.all().of(table.toString())).stream()
                        .filter(line -> line.archived().kind() == ArchivedRows.Kind.MARKS)
                        .toList()
                : List.of();
    }

    private void fill(StagingTable stage, List<Line> from, Sql further) {
        stage.fill(from, 0, further);
        from.stream().filter(line -> !lines.contains(line)).forEach(lines::add);
    }

    private StagingTable stage(Table table) {
        return stages.computeIfAbsent(
                table.name(), name -> StagingTable.ofMarks(session, tables, table, columns(name)));
    }

    private List<String> columns(TableName table) {
        MarkerPredicates marker = plan.marked().get(table);
        return marker == null ? List.of() : marker.columns();
    }

    private static String marked(StagingTable stage, String alias) {
        return "EXISTS (SELECT 1 FROM " + stage.name() + " m WHERE " + stage.same("m", alias) + ")";
    }

    @Override
    public Sql together(Relation relation) {
        StagingTable children = stages.get(relation.child());
        StagingTable parents = stages.get(relation.parent());
        return children == null || parents == null
                ? Sql.of("1 = 0")
                : Sql.of("EXISTS (SELECT 1 FROM " + children.name() + " m, " + parents.name() + " q WHERE "
                        + children.same("m", "t") + " AND " + parents.same("q", "p") + " AND m." + StagingTable.RECEIPT
                        + " = q." + StagingTable.RECEIPT + ")");
    }

    @Override
    public Sql held(Table table, String column, Sql otherwise) {
        StagingTable stage = stages.get(table.name());
        if (stage == null || stage.columnsSince().contains(ArchivedColumn.OLD + column)) {
            // Or the table was marked by another column then.
            return otherwise;
        }
        return Sql.of("CASE WHEN " + marked(stage, "t") + " THEN (SELECT m."
                        + dialect.syntax().quote(ArchivedColumn.OLD + column) + " FROM " + stage.name() + " m WHERE "
                        + stage.same("m", "t") + ") ELSE ")
                .add(otherwise)
                .add(" END");
    }

    @Override
    public Impact judged(Impact found) {
        ArchiveIntegrity integrity = new ArchiveIntegrity(session, tables);
        integrity.check(lines, ArchiveIntegrity.used(stages.values(), session));
        if (integrity.changed().isEmpty() && integrity.warnings().isEmpty()) {
            return found;
        }
        List<Blocker> blockers = new ArrayList<>(found.blockers());
        blockers.addAll(integrity.changed());
        List<String> warnings = new ArrayList<>(found.warnings());
        warnings.addAll(integrity.warnings());
        return found.toBuilder().blockers(blockers).warnings(warnings).build();
    }

    @Override
    public void restored(Map<TableName, KeySet> rows) {
        RestoredImages back = new RestoredImages(session, tables, lines);
        stages.forEach((table, stage) -> {
            KeySet restored = rows.get(table);
            if (restored != null) {
                stage.leaveOut(Sql.of("NOT ").add(stage.rowsIn(restored)));
                back.note(stage, receiptNo.getAsLong());
            }
        });
    }
}
