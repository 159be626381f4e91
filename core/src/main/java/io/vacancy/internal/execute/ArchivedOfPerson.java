// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Finds what is archived of rows that belong, or belonged, to a person: level by level, from the rows that are there and the
 * archived ones that were found before, by the links that archived rows hold. Used once, by one thread.
 */
public final class ArchivedOfPerson {

    private static final int LINKS_AT_ONCE = 200;
    /** So many keys of archived rows a request may have. */
    private static final int KEYS_AT_ONCE = 5_000;

    private final RequestExecutor executor;
    private final Request forget;
    private final ResolvedRules rules;
    /** By which rows of child tables belong to the person as well. */
    private final List<RelationStep> belonging;
    /** By step: what rows that it leads to refer to. */
    private final Map<RelationStep, Set<List<Object>>> parents = new LinkedHashMap<>();
    /** By table: the keys of rows of which something may be archived. */
    private final Map<TableName, Set<List<Object>>> keys = new LinkedHashMap<>();

    /** @param forget the person, by the key */
    public ArchivedOfPerson(RequestExecutor executor, ResolvedRules rules, Request forget) {
        this.executor = executor;
        this.forget = forget;
        this.rules = rules;
        this.belonging = executor.belongingPlan(forget).program().branches().stream()
                .filter(step -> step.action() instanceof RuleAction.Cascade && lasts(step))
                .toList();
    }

    private boolean lasts(RelationStep step) {
        return rules.schema().table(step.relation().child()).identity().lasts();
    }

    /** A request for each table of which something is archived. */
    public List<Request> purges() {
        Selection.ByKeys own = (Selection.ByKeys) Objects.requireNonNull(forget.selection());
        Table person = rules.schema().table(String.valueOf(forget.table()));
        key(person.name(), own.keys().iterator().next().valuesFor(person));
        try (Stream<Row> rows = executor.belonging(forget)) {
            // Of a row that is there only what was blanked is archived, unless it came back.
            rows.forEach(row -> found(row, rules.canBlank(rules.schema().table(row.table()))));
        }
        List<Row> archived = archived(person, Request.purge(person.toString()).keys(own.keys()));
        archived.forEach(row -> found(row, true));
        while (!parents.isEmpty()) {
            next().forEach(row -> found(row, true));
        }
        List<Request> purges = new ArrayList<>();
        keys.forEach((table, all) -> purges(rules.schema().table(table), List.copyOf(all), purges));
        return purges;
    }

    private void purges(Table table, List<List<Object>> all, List<Request> purges) {
        for (int from = 0; from < all.size(); from += KEYS_AT_ONCE) {
            List<Key> some = all.subList(from, Math.min(all.size(), from + KEYS_AT_ONCE)).stream()
                    .map(key -> Key.of(table.identity().columns(), key))
                    .toList();
            Request purge = Request.purge(table.toString()).keys(some);
            if (executor.preview(purge).state() != State.NOTHING) {
                purges.add(purge);
            }
        }
    }

    private void key(TableName table, List<Object> key) {
        keys.computeIfAbsent(table, name -> new LinkedHashSet<>()).add(key);
    }

    /** Remembers a row, and what its child rows would refer to. */
    private void found(Row row, boolean archived) {
        Table table = rules.schema().table(row.table());
        List<Object> key =
                table.identity().lasts() ? values(row, table.identity().columns()) : null;
        if (key != null && archived) {
            key(table.name(), key);
        }
        for (RelationStep step : belonging) {
            boolean leads = step.relation().parent().equals(row.table());
            List<Object> value = leads ? values(row, step.relation().parentColumns()) : null;
            if (value != null) {
                parents.computeIfAbsent(step, name -> new LinkedHashSet<>()).add(value);
            }
        }
    }

    private static @Nullable List<Object> values(Row row, List<String> columns) {
        List<Object> values = new ArrayList<>();
        for (String column : columns) {
            Object value = row.get(column);
            if (value == null) {
                return null;
            }
            values.add(value);
        }
        return values;
    }

    /** Archived rows that refer to rows that were found since. */
    private List<Row> next() {
        Map<RelationStep, Set<List<Object>>> now = new LinkedHashMap<>(parents);
        parents.clear();
        List<Row> found = new ArrayList<>();
        now.forEach((step, values) -> {
            Table child = rules.schema().table(step.relation().child());
            List<List<Object>> all = List.copyOf(values);
            for (int from = 0; from < all.size(); from += LINKS_AT_ONCE) {
                List<List<Object>> some = all.subList(from, Math.min(all.size(), from + LINKS_AT_ONCE));
                Request purge = Request.purge(child.toString()).where(which(step, some));
                Set<List<Object>> known = keys.getOrDefault(child.name(), Set.of());
                archived(child, purge).stream()
                        .filter(row ->
                                !known.contains(values(row, child.identity().columns())))
                        .forEach(found::add);
            }
        });
        return found;
    }

    private List<Row> archived(Table table, Request purge) {
        try (Stream<Row> rows = executor.images(purge, ArchiveSelection.any())) {
            return rows.toList();
        }
    }

    /** Which rows refer to these parents, and are meant by the step. */
    private static Condition which(RelationStep step, List<List<Object>> values) {
        List<Condition> any = new ArrayList<>();
        for (List<Object> value : values) {
            List<Condition> all = new ArrayList<>();
            for (int i = 0; i < value.size(); i++) {
                all.add(ColumnRef.column(step.relation().childColumns().get(i)).equalTo(value.get(i)));
            }
            any.add(all.size() == 1 ? all.get(0) : new Condition.All(all));
        }
        Condition refers = new Condition.Any(any);
        return step.which() == null ? refers : refers.and(step.which());
    }
}
