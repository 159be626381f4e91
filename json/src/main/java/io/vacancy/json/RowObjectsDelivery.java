// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import io.vacancy.Vacancy;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.preview.Action;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.OutboxEvent;
import io.vacancy.trail.TrailEntry;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Tells {@link RowObjects} after the commit what became of their rows, by the events of the outbox: at least once, in order. What
 * is told is not what an event says but how each row that it names stands by now, so that it is right however late it comes:
 * a row that was restored in between, or whose key somebody has again, loses nothing.
 *
 * <p>The vacancy is one from which nothing is hidden. One delivery at a time is enough; two at once tell the same twice.
 */
public final class RowObjectsDelivery {

    private static final int AT_ONCE = 1_000;

    private static final Set<Action> CHANGING =
            EnumSet.of(Action.DELETE, Action.SOFT_DELETE, Action.RESTORE, Action.PURGE, Action.DROP);

    private final Vacancy vacancy;
    private final Map<Table, RowObjects> objects = new LinkedHashMap<>();

    /**
     * @param objects by the name of their table; events about other tables are passed by
     * @throws io.vacancy.failure.MisuseException if a table is not in the database
     */
    public RowObjectsDelivery(Vacancy vacancy, Map<String, ? extends RowObjects> objects) {
        this.vacancy = Arguments.notNull(vacancy, "vacancy");
        Arguments.named(objects, "objects")
                .forEach((table, of) ->
                        this.objects.put(vacancy.schema().table(table), Arguments.notNull(of, "objects of " + table)));
    }

    /**
     * Passes waiting events on, until none is left or so many were.
     *
     * @return how many were passed on
     */
    public int deliver(int most) {
        return vacancy.outbox().passOn(most, this::deliver);
    }

    private void deliver(OutboxEvent event) {
        TrailEntry entry = JsonReader.entry(
                StrictJson.need(StrictJson.read(event.content()), "data").toString());
        if (entry.ending() != TrailEntry.Ending.DONE) {
            return;
        }
        for (AffectedRows rows : entry.affected()) {
            if (rows.action() != null && CHANGING.contains(rows.action())) {
                objects.forEach((table, of) -> {
                    if (table.toString().equals(rows.table())) {
                        deliver(rows, table, of);
                    }
                });
            }
        }
    }

    private void deliver(AffectedRows rows, Table table, RowObjects of) {
        boolean named = table.identity().columns().stream()
                .allMatch(column -> vacancy.rules().personal().origin(table.name(), column) == null);
        // Of a column that is dropped, the rows stay as they are.
        if (rows.action() == Action.DROP && rows.becomes() != null) {
            return;
        }
        boolean gone = !vacancy.schema().has(table.toString());
        if (gone || !rows.whole() || !named) {
            of.unnamed(table.toString(), rows.rows());
            return;
        }
        for (int from = 0; from < rows.keys().size(); from += AT_ONCE) {
            List<Key> keys = rows
                    .keys()
                    .subList(from, Math.min(from + AT_ONCE, rows.keys().size()))
                    .stream()
                    .map(Key::of)
                    .toList();
            tell(keys, table, of);
        }
    }

    private void tell(List<Key> keys, Table table, RowObjects of) {
        String name = table.toString();
        Set<List<Object>> active = keys(Request.erase(name).keys(keys), table);
        Set<List<Object>> kept = keys(Request.erase(name).keys(keys).includingMarked(), table);
        kept.addAll(keys(Request.purge(name).keys(keys), table));
        for (Key key : keys) {
            List<Object> values = key.valuesFor(table);
            if (active.contains(values)) {
                of.show(name, key);
            } else if (kept.contains(values)) {
                of.hide(name, key);
            } else {
                of.remove(name, key);
            }
        }
    }

    /** The keys of the rows that a request selects, be they there or archived. */
    private Set<List<Object>> keys(Request request, Table table) {
        try (Stream<Row> rows = vacancy.rows(request)) {
            return rows.map(row ->
                            table.identity().columns().stream().map(row::get).toList())
                    .collect(Collectors.toCollection(HashSet::new));
        }
    }
}
