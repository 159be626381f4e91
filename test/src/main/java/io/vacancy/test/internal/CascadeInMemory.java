// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.RelativeTime;
import io.vacancy.preview.Action;
import io.vacancy.preview.Impact;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.KeyTemplate;
import io.vacancy.rules.RaisedVersion;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ColumnWrites;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Rows that are removed, marked or come back, with all that depends on them. */
final class CascadeInMemory implements MemoryOperation {

    private final MemoryRows rows;
    private final ExecutionPlan plan;
    private final MemoryArchive archive;
    private final MemoryTraversal traversal;

    CascadeInMemory(MemoryRows rows, ExecutionPlan plan, MemoryArchive archive) {
        this.rows = rows;
        this.plan = plan;
        this.archive = archive;
        this.traversal = new MemoryTraversal(rows, plan).run();
    }

    @Override
    public Impact impact() {
        return traversal.impact();
    }

    @Override
    public List<Row> rows() {
        return traversal.lines().stream()
                .filter(line -> line.step() == null)
                .flatMap(line -> line.rows().stream())
                .toList();
    }

    @Override
    public List<AffectedKeys> affected(int most) {
        return traversal.lines().stream()
                .map(line -> new AffectedKeys(
                        line.table(),
                        line.action(),
                        line.step() == null ? null : line.step().relation().name(),
                        line.rows().stream().limit(most).map(rows::key).toList()))
                .toList();
    }

    @Override
    public void run() {
        archive.keep(plan.archivePolicy(), traversal.lines());
        for (MemoryTraversal.Line line : traversal.lines()) {
            for (Row row : line.rows()) {
                change(row, line);
            }
        }
        // Links first, so that a row is not looked for among those that are removed.
        traversal.lines().stream()
                .filter(line -> line.action() == Action.DELETE)
                .forEach(line -> line.rows().forEach(rows::remove));
    }

    private void change(Row row, MemoryTraversal.Line line) {
        ColumnWrites writes = plan.writes();
        for (ColumnWrites.Parent parent : writes.parents()) {
            Row stamped = parent.relation().child().equals(row.table()) ? rows.parent(row, parent.relation()) : null;
            if (stamped != null) {
                rows.put(written(stamped, parent.auditColumns()));
            }
        }
        RelationStep step = line.step();
        Row now = Objects.requireNonNull(rows.find(row.table(), rows.key(row)));
        switch (line.action()) {
            case SOFT_DELETE, RESTORE -> rows.put(written(now, writes.marks().getOrDefault(row.table(), List.of())));
            case BLANK -> {
                Row blank = written(now, writes.blanks().getOrDefault(row.table(), List.of()));
                rows.put(written(blank, writes.auditColumns().getOrDefault(row.table(), List.of())));
            }
            case SET_NULL, REASSIGN -> {
                RelationStep link = Objects.requireNonNull(step);
                Row parent = Objects.requireNonNull(rows.parent(row, link.relation()));
                Row moved = MemoryRows.with(now, NewLink.of(link, parent, rows.schema()));
                rows.put(written(moved, writes.auditColumns().getOrDefault(row.table(), List.of())));
            }
            default -> {}
        }
    }

    private Row written(Row row, List<Assignment> assignments) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        for (Assignment assignment : assignments) {
            values.put(assignment.column(), value(assignment, row));
        }
        return MemoryRows.with(row, values);
    }

    private @Nullable Object value(Assignment assignment, Row row) {
        TableName table = row.table();
        Object value = assignment.value();
        ColumnType type = rows.schema().table(table).column(assignment.column()).type();
        if (value instanceof RaisedVersion && type.kind() == ValueKind.INTEGER) {
            Object held = row.get(assignment.column());
            return held == null ? 1L : ((Number) held).longValue() + 1;
        }
        if (value instanceof RelativeTime || value instanceof RaisedVersion) {
            RelativeTime time = value instanceof RelativeTime said ? said : RelativeTime.now();
            return time.at(plan.now(), type.kind());
        }
        if (value instanceof KeyTemplate template) {
            return template.parts().stream()
                    .map(part -> part.text() + (part.column() == null ? "" : row.text(part.column())))
                    .collect(Collectors.joining());
        }
        if (value instanceof ColumnRef other) {
            return row.get(other.name());
        }
        return value == null
                ? null
                : rows.schema().table(table).column(assignment.column()).read(value, table);
    }

    /** The rows of a table that the operation takes. */
    List<Row> rows(TableName table) {
        List<Row> of = new ArrayList<>();
        traversal.lines().stream()
                .filter(line -> line.table().equals(table)
                        && (line.step() == null
                                || line.action() == Action.DELETE
                                || line.action() == Action.SOFT_DELETE))
                .forEach(line -> of.addAll(line.rows()));
        return of;
    }

    MemoryTraversal traversal() {
        return traversal;
    }
}
