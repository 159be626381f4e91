// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ArchiveSelection;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
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
    private final ResolvedRules rules;
    private final Request forget;
    private final Table person;
    private final Predicate<Table> blankable;
    /** By relation: what rows that it leads to refer to. */
    private final Map<Relation, Set<List<Object>>> parents = new LinkedHashMap<>();
    /** By table: the keys of rows of which something may be archived. */
    private final Map<TableName, Set<List<Object>>> keys = new LinkedHashMap<>();

    /** @param forget the person */
    public ArchivedOfPerson(RequestExecutor executor, ResolvedRules rules, Request forget) {
        this.executor = executor;
        this.person = rules.schema().table(String.valueOf(forget.table()));
        this.rules = rules.belonging(person.name());
        this.blankable = rules::canBlank;
        this.forget = forget;
    }

    /** A request for each table of which something is archived. */
    public List<Request> purges() {
        Selection.ByKeys own = (Selection.ByKeys) Objects.requireNonNull(forget.selection());
        key(person.name(), own.keys().iterator().next().valuesFor(person));
        try (Stream<Row> rows = executor.belonging(forget)) {
            // Of a row that is there only what was blanked is archived, unless it came back.
            rows.forEach(row -> found(row, blankable.test(rules.schema().table(row.table()))));
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
                    .map(key -> key(table, key))
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

    private static Key key(Table table, List<Object> values) {
        List<String> columns = table.identity().columns();
        if (columns.size() == 1) {
            return Key.of(values.get(0));
        }
        Map<String, Object> parts = new LinkedHashMap<>();
        for (int i = 0; i < columns.size(); i++) {
            parts.put(columns.get(i), values.get(i));
        }
        return new Key(parts);
    }

    /** Remembers a row, and what its child rows would refer to. */
    private void found(Row row, boolean archived) {
        Table table = rules.schema().table(row.table());
        List<Object> key =
                table.identity().lasts() ? values(row, table.identity().columns()) : null;
        if (key != null && archived) {
            key(table.name(), key);
        }
        for (Relation relation : rules.schema().relationsTo(table.name())) {
            List<Object> value = belongs(relation) ? values(row, relation.parentColumns()) : null;
            if (value != null) {
                parents.computeIfAbsent(relation, name -> new LinkedHashSet<>()).add(value);
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

    private boolean belongs(Relation relation) {
        return rules.schema().table(relation.child()).identity().lasts()
                && rules.rulesFor(relation).stream().anyMatch(rule -> rule.action() instanceof RuleAction.Cascade);
    }

    /** Archived rows that refer to rows that were found since. */
    private List<Row> next() {
        Map<Relation, Set<List<Object>>> now = new LinkedHashMap<>(parents);
        parents.clear();
        List<Row> found = new ArrayList<>();
        now.forEach((relation, values) -> {
            Table child = rules.schema().table(relation.child());
            List<List<Object>> all = List.copyOf(values);
            for (int from = 0; from < all.size(); from += LINKS_AT_ONCE) {
                List<List<Object>> some = all.subList(from, Math.min(all.size(), from + LINKS_AT_ONCE));
                Request purge = Request.purge(child.toString()).where(belonging(relation, some));
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

    /** Which rows refer to these parents, and are the person's by the rules of the relation. */
    private Condition belonging(Relation relation, List<List<Object>> values) {
        List<Condition> any = new ArrayList<>();
        for (List<Object> value : values) {
            List<Condition> all = new ArrayList<>();
            for (int i = 0; i < value.size(); i++) {
                all.add(ColumnRef.column(relation.childColumns().get(i)).equalTo(value.get(i)));
            }
            any.add(all.size() == 1 ? all.get(0) : new Condition.All(all));
        }
        List<Condition> which = new ArrayList<>(List.of(new Condition.Any(any)));
        if (relation.discriminator() != null) {
            which.add(ColumnRef.column(relation.discriminator().column().name())
                    .equalTo(relation.discriminator().value()));
        }
        List<Condition> ways = new ArrayList<>();
        List<Condition> earlier = new ArrayList<>();
        for (Rule rule : rules.rulesFor(relation)) {
            List<Condition> way = new ArrayList<>(earlier);
            Condition when = rule.when();
            if (when != null) {
                way.add(new Condition.IsTrue(when));
                earlier.add(new Condition.IsTrue(when).not());
            }
            if (rule.action() instanceof RuleAction.Cascade && way.isEmpty()) {
                return which.size() == 1 ? which.get(0) : new Condition.All(which);
            }
            if (rule.action() instanceof RuleAction.Cascade) {
                ways.add(new Condition.All(way));
            }
        }
        which.add(new Condition.Any(ways));
        return new Condition.All(which);
    }
}
