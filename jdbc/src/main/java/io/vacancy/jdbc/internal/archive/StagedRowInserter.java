// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.CyclePlan;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.internal.traversal.Samples;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Blocker;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.DeleteOrder;
import io.vacancy.spi.plan.DeleteStep;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** Adds staged rows to their tables, parents before children, in the order of removal turned round. */
final class StagedRowInserter {

    /** As many rows are looked for as a blocker needs. */
    private static final int REJECTED = 20;

    private final Session session;
    private final Dialect dialect;
    private final Schema schema;
    private final Map<TableName, StagingTable> rows;
    private final List<String> afterwards = new ArrayList<>();

    StagedRowInserter(Session session, Schema schema, Map<TableName, StagingTable> rows) {
        this.session = session;
        this.dialect = session.dialect();
        this.schema = schema;
        this.rows = rows;
    }

    void run() {
        lockParents();
        List<DeleteStep> order = new ArrayList<>(new DeleteOrder(schema).steps(rows.keySet()));
        Collections.reverse(order);
        for (DeleteStep removal : order) {
            CyclePlan circle = CyclePlan.of(removal, schema, dialect);
            add(circle);
        }
        for (StagingTable stage : rows.values()) {
            stage.table().columns().stream().filter(Column::identity).forEach(column -> advance(stage, column));
        }
    }

    /** What is to be run once all of it is committed. */
    List<String> afterwards() {
        return afterwards;
    }

    /** Where a foreign key does not keep others from removing a parent that is about to get a child. */
    private void lockParents() {
        if (dialect.locking().parentsLockOutChildren()
                || dialect.locking().forUpdate().isEmpty()) {
            return;
        }
        for (StagingTable stage : rows.values()) {
            for (Relation relation : schema.relationsFrom(stage.table().name())) {
                session.forEach(
                        Sql.of("SELECT 1 FROM " + dialect.syntax().table(relation.parent())
                                + " p WHERE EXISTS (SELECT 1 FROM "
                                + stage.name() + " t WHERE " + dialect.syntax().joined(relation, "p", "t") + ")"
                                + dialect.locking().forUpdate()),
                        StatementContext.of("locking parents in", relation.parent(), relation.name()),
                        row -> {});
            }
        }
    }

    private void add(CyclePlan circle) {
        List<TableName> parentsFirst = new ArrayList<>(circle.order());
        Collections.reverse(parentsFirst);
        List<TableName> affected = parentsFirst.stream()
                .filter(rows::containsKey)
                .filter(table -> stage(table).size() > 0)
                .toList();
        List<Relation> cut = circle.cut().stream()
                .filter(relation -> affected.contains(relation.child()))
                .toList();
        if (affected.isEmpty() || !(circle.closed() || inSeveralStatements(affected, cut))) {
            affected.forEach(table -> {
                for (Sql insert : insertions(stage(table), left(cut, table))) {
                    String violated = session.attempt(numbered(stage(table), insert), context(table));
                    if (violated != null) {
                        refuseRejected(stage(table), insert, violated);
                    }
                }
            });
        } else {
            closed(affected, cut);
        }
        cut.forEach(this::link);
        affected.forEach(this::expect);
    }

    /** Whether rows that refer to rows of their own table had other columns then, so that one statement cannot add all. */
    private boolean inSeveralStatements(List<TableName> affected, List<Relation> cut) {
        return affected.stream()
                .filter(table -> stage(table).layouts().size() > 1)
                .anyMatch(table -> schema.relationsFrom(table).stream()
                        .anyMatch(relation -> relation.toItself() && relation.enforced() && !cut.contains(relation)));
    }

    private void closed(List<TableName> affected, List<Relation> cut) {
        String numbers = affected.stream()
                .map(table -> dialect.definitions().keepingNumbers(schema.table(table)))
                .max(Comparator.comparing(String::length))
                .orElse("");
        List<Sql> insertions = affected.stream()
                .flatMap(table -> insertions(stage(table), left(cut, table)).stream())
                .toList();
        TableName first = affected.get(0);
        switch (dialect.foreignKeys().closedCircle()) {
            case DEFERRED -> {
                session.update(
                        Sql.of(dialect.foreignKeys().deferChecks()),
                        StatementContext.of("putting off checks on", first));
                insertions.forEach(insert -> session.update(insert, context(first)));
            }
            case TOGETHER -> {
                Sql together = new Sql();
                for (int i = 0; i < insertions.size() - 1; i++) {
                    together.add((i == 0 ? "WITH " : ", ") + "circle" + i + " AS (")
                            .add(insertions.get(i))
                            .add(")");
                }
                session.update(together.add(" ").add(insertions.get(insertions.size() - 1)), context(first));
            }
            case UNCHECKED ->
                insertions.forEach(insert -> session.update(
                        Sql.of(dialect.foreignKeys().unchecked(numbers)).add(insert), context(first)));
            case LEAVES_FIRST -> affected.forEach(table -> rootsFirst(stage(table), left(cut, table)));
        }
    }

    /** Again and again those rows whose parents are there. */
    private void rootsFirst(StagingTable stage, Set<String> without) {
        Table table = stage.table();
        Sql ready = Sql.of("NOT EXISTS (SELECT 1 FROM " + dialect.syntax().table(table.name()) + " o WHERE "
                + stage.same("o", "t") + ")");
        for (Relation relation : schema.relationsFrom(table.name())) {
            if (relation.toItself() && relation.enforced()) {
                String itself = relation.childColumns().stream()
                        .map(column -> "t." + dialect.syntax().quote(column) + " = t."
                                + dialect.syntax()
                                        .quote(relation.parentColumns()
                                                .get(relation.childColumns().indexOf(column))))
                        .collect(Collectors.joining(" AND "));
                ready.add(" AND ((" + itself + ") OR EXISTS (SELECT 1 FROM "
                        + dialect.syntax().table(table.name()) + " p WHERE "
                        + dialect.syntax().joined(relation, "p", "t") + "))");
            }
        }
        long added = 1;
        while (added > 0) {
            added = 0;
            for (Sql insert : insertions(stage, without)) {
                Sql those = numbered(stage, insert).add(" AND ").add(ready);
                added += session.update(those, context(table.name()));
            }
        }
    }

    /**
     * Looks for the rows that the database does not take, as far as they are few. Where it takes each of them after all, as
     * MariaDB does with triggers and computed columns, all of them are there then.
     */
    private void refuseRejected(StagingTable stage, Sql insert, String violated) {
        long[] ends = session.query(
                        Sql.of("SELECT COALESCE(MIN(" + StagingTable.IMAGE + "), 0), COALESCE(MAX(" + StagingTable.IMAGE
                                + "), 0) FROM " + stage.name()),
                        stage.context("looking for rejected rows of"),
                        row -> new long[] {row.getLong(1), row.getLong(2)})
                .get(0);
        List<Long> rejected = new ArrayList<>();
        narrow(stage, insert, ends[0], ends[1], rejected);
        if (rejected.isEmpty()) {
            return;
        }
        String numbers = rejected.stream().map(String::valueOf).collect(Collectors.joining(", "));
        List<Row> sample = new Rows(session, stage.table(), stage.name())
                .first(
                        Samples.ROWS,
                        Sql.of("t." + StagingTable.IMAGE + " IN (" + numbers + ")"),
                        stage.context("reading rejected rows of"));
        throw new RejectedRowsException(new Blocker(
                stage.table().name(),
                null,
                rejected.size(),
                "the database does not take them: " + violated,
                sample,
                List.of()));
    }

    /** Halves what is rejected together until rows are alone; those that are taken stay, since others may collide with them. */
    private void narrow(StagingTable stage, Sql insert, long from, long to, List<Long> rejected) {
        if (rejected.size() == REJECTED) {
            return;
        }
        Sql some = numbered(stage, insert).add(" AND t." + StagingTable.IMAGE + " BETWEEN " + from + " AND " + to);
        if (session.attempt(some, context(stage.table().name())) == null) {
            return;
        }
        if (from == to) {
            rejected.add(from);
            return;
        }
        long middle = from + (to - from) / 2;
        narrow(stage, insert, from, middle, rejected);
        narrow(stage, insert, middle + 1, to, rejected);
    }

    /** With the numbers that rows had, where the engine gives some itself. */
    private Sql numbered(StagingTable stage, Sql insert) {
        return Sql.of(dialect.definitions().keepingNumbers(stage.table())).add(insert);
    }

    private StagingTable stage(TableName table) {
        StagingTable stage = rows.get(table);
        if (stage == null) {
            throw new IllegalStateException("nothing of " + table + " is restored");
        }
        return stage;
    }

    /** The columns of links that are put in once all rows are there. */
    private Set<String> left(List<Relation> cut, TableName table) {
        Set<String> columns = new LinkedHashSet<>();
        cut.stream()
                .filter(relation -> relation.child().equals(table))
                .forEach(relation -> columns.addAll(nullable(relation)));
        return columns;
    }

    private List<String> nullable(Relation relation) {
        Table child = schema.table(relation.child());
        return relation.childColumns().stream()
                .filter(column -> child.column(column).nullable())
                .toList();
    }

    /** A statement for the lines of each layout, since a column that was not there then gets what it gets by default. */
    private List<Sql> insertions(StagingTable stage, Set<String> without) {
        List<Sql> insertions = new ArrayList<>();
        for (List<ArchivedRows> layout : stage.layouts()) {
            List<String> archived =
                    layout.get(0).columns().stream().map(ArchivedColumn::name).toList();
            List<String> columns = stage.table().columns().stream()
                    .filter(column -> !column.generated() && archived.contains(column.name()))
                    .map(Column::name)
                    .toList();
            String lines = stage.layouts().size() == 1
                    ? "1 = 1"
                    : layout.stream()
                            .map(line -> "(t." + StagingTable.LINE + " = " + line.line() + " AND t."
                                    + StagingTable.RECEIPT + " = " + stage.receiptNo(line) + ")")
                            .collect(Collectors.joining(" OR ", "(", ")"));
            // What is left for later is NULL until then, and not what the column has by default.
            String selected = columns.stream()
                    .map(column -> without.contains(column)
                            ? dialect.syntax()
                                    .typed(
                                            Sql.of("NULL"),
                                            stage.table().column(column).type())
                                    .text()
                            : "t." + dialect.syntax().quote(column))
                    .collect(Collectors.joining(", "));
            String names = columns.stream().map(dialect.syntax()::quote).collect(Collectors.joining(", "));
            insertions.add(
                    Sql.of("INSERT INTO " + dialect.syntax().table(stage.table().name()) + " ("
                            + names + ")"
                            + dialect.definitions().overriding(stage.table()) + " SELECT " + selected
                            + " FROM " + stage.name() + " t WHERE " + lines));
        }
        return insertions;
    }

    /** Puts the links in that were left out while rows were added. */
    private void link(Relation relation) {
        StagingTable stage = stage(relation.child());
        List<String> columns = nullable(relation);
        update(stage, columns, columns, Map.of(), " AND s." + dialect.syntax().quote(columns.get(0)) + " IS NOT NULL");
    }

    /**
     * Puts back what a link held.
     *
     * @param stamps what else is written into row t
     */
    void putBack(ColumnRestore link, Map<String, Sql> stamps) {
        long expected = link.stage().size();
        List<String> old = link.columns().stream()
                .map(column -> ArchivedColumn.OLD + column)
                .toList();
        long changed = expected == 0 ? 0 : update(link.stage(), link.columns(), old, stamps, "");
        if (changed != expected) {
            throw new ConcurrentChangeException("Of " + expected + " rows of "
                    + link.stage().table() + " whose link would be put back, " + changed + " were still there.");
        }
    }

    private long update(
            StagingTable stage, List<String> columns, List<String> from, Map<String, Sql> stamps, String further) {
        TableName table = stage.table().name();
        Sql update = Sql.of(dialect.syntax().update(dialect.syntax().table(table)));
        for (int i = 0; i < columns.size(); i++) {
            update.add((i == 0 ? "" : ", ") + dialect.syntax().quote(columns.get(i)) + " = (SELECT s."
                    + dialect.syntax().quote(from.get(i)) + " FROM " + stage.name() + " s WHERE " + stage.same("s", "t")
                    + ")");
        }
        stamps.forEach((column, value) ->
                update.add(", " + dialect.syntax().quote(column) + " = ").add(value));
        update.add(" WHERE EXISTS (SELECT 1 FROM " + stage.name() + " s WHERE " + stage.same("s", "t") + further + ")");
        return session.update(update, StatementContext.of("putting links back in", table));
    }

    private void expect(TableName table) {
        StagingTable stage = stage(table);
        if (stage.key().isEmpty()) {
            return;
        }
        long missing = session.number(
                Sql.of("SELECT COUNT(*) FROM " + stage.name() + " t WHERE NOT EXISTS (SELECT 1 FROM "
                        + dialect.syntax().table(table) + " o WHERE " + stage.same("o", "t") + ")"),
                StatementContext.of("counting what is back in", table));
        if (missing > 0) {
            throw new ConcurrentChangeException(
                    missing + " rows of " + table + " were to be restored and are not there.");
        }
        session.pace().did(table, stage.size());
    }

    private void advance(StagingTable stage, Column column) {
        String advance = dialect.definitions().advance(stage.table().name(), column);
        if (advance != null) {
            session.forEach(
                    Sql.of(advance),
                    StatementContext.of("counting on in", stage.table().name()),
                    row -> {
                        if (row.getObject(1) instanceof String statement) {
                            afterwards.add(statement);
                        }
                    });
        }
    }

    private static StatementContext context(TableName table) {
        return StatementContext.of("adding rows to", table);
    }
}
