// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.listener.RowHandler;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkippedRow;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.spi.Decision;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.QuestionStore;
import io.vacancy.spi.Records;
import io.vacancy.spi.Store.Ending;
import io.vacancy.spi.TrailStore;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.trail.TrailEntry;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Rows, archive and trail in memory, one call at a time. */
public final class MemoryDatabase {

    private final MemoryTrail trail = new MemoryTrail();
    private final MemoryArchive archive = new MemoryArchive(trail);
    private final MemoryQuestions questions = new MemoryQuestions();
    private MemoryRows rows;

    public MemoryDatabase(Schema schema) {
        this.rows = new MemoryRows(schema);
    }

    public Schema schema() {
        return rows.schema();
    }

    public ArchiveStore archive() {
        return archive;
    }

    public TrailStore trail() {
        return trail;
    }

    public QuestionStore questions() {
        return questions;
    }

    public synchronized void insert(Row row) {
        rows.insert(row);
    }

    public synchronized List<Row> all(TableName table) {
        return List.copyOf(rows.all(table));
    }

    public synchronized Impact analyze(ExecutionPlan plan) {
        return MemoryOperations.of(rows, plan, archive).impact();
    }

    public synchronized List<Row> rows(ExecutionPlan plan, TableName table) {
        MemoryOperation operation = MemoryOperations.of(rows, plan, archive);
        return operation instanceof CascadeInMemory cascade ? cascade.rows(table) : operation.rows();
    }

    public synchronized List<Row> rows(ExecutionPlan plan) {
        List<TableName> roots = plan.program().roots();
        List<Row> all = new ArrayList<>();
        roots.forEach(root -> all.addAll(rows(plan, root)));
        plan.program().tables().stream()
                .filter(table -> !roots.contains(table))
                .forEach(table -> all.addAll(rows(plan, table)));
        return all;
    }

    public synchronized List<Row> missing(ExecutionPlan plan) {
        return new MemoryTraversal(rows, plan).run().missing();
    }

    public synchronized List<SkippedRow> skipped(ExecutionPlan plan) {
        return List.copyOf(new MemoryTraversal(rows, plan).run().skipped());
    }

    /** Child rows whose parent is missing; only relations that are not enforced can have any. */
    public synchronized Map<Relation, RowSample> orphans(List<Relation> relations) {
        Map<Relation, RowSample> orphans = new LinkedHashMap<>();
        for (Relation relation : relations) {
            List<Row> lost = rows.all(relation.child()).stream()
                    .filter(row -> MemoryRows.refers(row, relation) && rows.parent(row, relation) == null)
                    .toList();
            if (!lost.isEmpty()) {
                orphans.put(relation, new RowSample(lost.size(), lost.subList(0, Math.min(3, lost.size()))));
            }
        }
        return orphans;
    }

    public synchronized long count(TableName table, @Nullable Condition condition) {
        ConditionEvaluator evaluator = new ConditionEvaluator(rows.schema().table(table), rows, ZonedDateTime.now());
        return rows.all(table).stream()
                .filter(row -> evaluator.holds(condition, row))
                .count();
    }

    public synchronized long children(Relation relation, @Nullable Condition child, Condition parent) {
        ZonedDateTime now = ZonedDateTime.now();
        ConditionEvaluator children = new ConditionEvaluator(rows.schema().table(relation.child()), rows, now);
        ConditionEvaluator parents = new ConditionEvaluator(rows.schema().table(relation.parent()), rows, now);
        return rows.all(relation.child()).stream()
                .filter(row -> children.holds(child, row))
                .filter(row -> {
                    Row of = rows.parent(row, relation);
                    return of != null && parents.holds(parent, of);
                })
                .count();
    }

    public synchronized Ending execute(ExecutionPlan plan, Decision decision, ExecutionMonitor monitor) {
        if (monitor.saveTarget() != null) {
            throw new MisuseException(
                    "The store in memory saves no copies.", "Test this on a database, with a store over JDBC.");
        }
        if (!archive.claim(plan.key(), plan.archivePolicy().receipt())) {
            return new Ending.KeyUsed();
        }
        MemoryRows before = rows.copy();
        boolean done = false;
        try {
            MemoryOperation operation = MemoryOperations.of(rows, plan, archive);
            Impact found = operation.impact();
            if (!decision.goAhead(found)) {
                return new Ending.Stopped();
            }
            RowHandler handler = monitor.rowHandler();
            if (handler != null) {
                handler.begin();
                operation.rows().forEach(handler::take);
            }
            List<AffectedKeys> affected =
                    operation.affected(plan.archivePolicy().keysInTrail());
            operation.run();
            Records records = decision.records(found, affected, 1);
            archive.keep(records.receipt());
            TrailEntry entry = records.entry();
            if (entry != null) {
                trail.write(entry);
            }
            done = true;
            return new Ending.Committed(found, List.of());
        } finally {
            if (!done) {
                rows = before;
                archive.forget(plan.key());
            }
        }
    }
}
