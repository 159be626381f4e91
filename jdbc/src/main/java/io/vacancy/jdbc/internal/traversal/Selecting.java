// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Target;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds the rows that a request starts from: by key, by condition, by code, or the first of them. */
final class Selecting {

    /** The way that leads to the selected rows; every other one is a relation. */
    static final int SELECTED = 0;

    /** Up to how many selected rows are handed out whole. */
    private final Session session;

    private final ConditionCompiler terms;
    private final Target target;
    private final @Nullable Sql narrowing;
    private final KeySet selected;
    private final TableName root;
    private final Finding finding;
    private @Nullable RequestedKeys asked;
    private @Nullable List<Row> records;

    /**
     * @param narrowing what holds besides for each selected row t, or null
     * @param selected the set that they are put into
     */
    Selecting(
            Session session,
            ConditionCompiler terms,
            Target target,
            @Nullable Sql narrowing,
            KeySet selected,
            Finding finding) {
        this.narrowing = narrowing;
        this.session = session;
        this.terms = terms;
        this.target = target;
        this.selected = selected;
        this.root = selected.table().name();
        this.finding = finding;
    }

    /** Selects. To be called once. */
    void run() {
        Target.Keys keys = target.keys();
        if (keys != null) {
            asked = new RequestedKeys(
                    session, selected.table(), selected.identity(), keys.each().iterator(), keys.given());
        }
        if (target.filter() == null && describes()) {
            return;
        }
        if (target.filter() == null) {
            select(
                    candidates(asked),
                    target.first() == null && asked != null && asked.size() <= Samples.RECORDS,
                    finding);
        } else {
            decide(target.filter());
        }
    }

    /** Whether the selected rows need only be counted, and go by the keys that were asked for. */
    private boolean describes() {
        RequestedKeys keys = asked;
        if (finding != Finding.COUNTED || target.first() != null || keys == null || !keys.arePacked()) {
            return false;
        }
        Iterable<Sql> parts = () -> keys.parts().map(this::narrowed).iterator();
        return selected.describe(parts, SELECTED, StatementContext.of("counting keys in", root));
    }

    /** The keys that were asked for, or null where rows were selected by something else. */
    @Nullable
    RequestedKeys asked() {
        return asked;
    }

    /** The selected rows whole, where they came so; else null. */
    @Nullable
    List<Row> records() {
        return records;
    }

    /** Whether rows were selected by their keys and by nothing else. */
    boolean byKeysAlone() {
        return target.which() == null
                && target.seen() == null
                && narrowing == null
                && target.filter() == null
                && target.first() == null;
    }

    /** Conditions on rows t of the selected table; of every selected row one of them is true. */
    private List<Sql> candidates(@Nullable RequestedKeys among) {
        return among(among).map(this::narrowed).toList();
    }

    private Sql narrowed(Sql among) {
        Condition seen = target.seen();
        Sql narrowed = asking(among);
        if (seen != null) {
            narrowed.add(" AND ").add(terms.condition(root, seen));
        }
        return narrowing == null ? narrowed : narrowed.add(" AND ").add(narrowing);
    }

    /** Conditions on rows t that are one of some keys; one that always holds where there are none. */
    private static Stream<Sql> among(@Nullable RequestedKeys keys) {
        return keys == null ? Stream.of(Sql.of("1 = 1")) : keys.conditions().stream();
    }

    /** The same before those are left out that are marked as deleted. */
    private Sql asking(Sql among) {
        Condition which = target.which();
        Relation orphaning = target.orphansOf();
        if (which != null) {
            among.add(" AND ").add(terms.condition(root, which));
        }
        return orphaning == null ? among : among.add(" AND ").add(Orphans.condition(orphaning, session.dialect()));
    }

    /** @param few whether there are so few that their whole rows may come at once, and need not be read again */
    private void select(List<Sql> candidates, boolean few, Finding finding) {
        StatementContext context = StatementContext.of("selecting from", root);
        if (few) {
            records = selected.addWhole(candidates.get(0), SELECTED, finding.locks(), context);
            return;
        }
        if (target.first() != null) {
            // The first of all of them are wanted, not the first of each.
            selected.add(anyOf(candidates), target.first(), order(), SELECTED, 0, finding.kept(), context);
            return;
        }
        for (Sql which : candidates) {
            selected.add(which, SELECTED, 0, finding, context);
        }
    }

    private static Sql anyOf(List<Sql> conditions) {
        Sql any = new Sql();
        for (int i = 0; i < conditions.size(); i++) {
            any.add(i == 0 ? "(" : " OR ").add(conditions.get(i));
        }
        return any.add(")");
    }

    private String order() {
        return target.order().stream()
                .map(by -> "t." + session.dialect().syntax().quote(by.column()) + (by.descending() ? " DESC, " : ", "))
                .collect(Collectors.joining());
    }

    /**
     * Has code decide on each candidate. All are read before any key is kept, so that nothing is skipped; under
     * locks those that were chosen are read once more, because they may have changed before they were locked.
     */
    private void decide(Predicate<Row> accepts) {
        StatementContext context = StatementContext.of("having code decide on rows of", root);
        List<KeyColumn> identity = selected.identity();
        if (!selected.table().identity().lasts()) {
            throw new MisuseException(
                    "Table " + selected.table() + " has no key, so code cannot decide on its rows one by one.",
                    "Select by a condition.");
        }
        Rows rows = new Rows(session, selected.table());
        KeyList.Packing packing = new KeyList.Packing();
        for (Sql candidates : candidates(asked)) {
            rows.each(selected.scoped(candidates), context, row -> {
                session.pace().did(root, 1);
                if (accepts.test(row)) {
                    Map<String, Object> parts = new LinkedHashMap<>();
                    identity.forEach(
                            column -> parts.put(column.name(), Objects.requireNonNull(row.get(column.name()))));
                    packing.add(new Key(parts));
                }
            });
        }
        KeyList accepted = packing.packed();
        Iterator<Key> keys = accepted.iterator();
        Stream<List<Object>> chosen = Stream.generate(() -> keys)
                .takeWhile(Iterator::hasNext)
                .map(Iterator::next)
                .map(key -> identity.stream()
                        .map(column -> Objects.requireNonNull(key.parts().get(column.name())))
                        .toList());
        RequestedKeys among =
                new RequestedKeys(session, selected.table(), identity, chosen.iterator(), accepted.size());
        if (among.size() == 0) {
            return;
        }
        session.pace().begin(Step.FINDING, null);
        select(candidates(among), false, finding.kept());
        if (finding.locks() && target.first() == null) {
            rows.each(selected.contains("t"), context, row -> {
                if (!accepts.test(row)) {
                    throw new ConcurrentChangeException(
                            "A row of " + selected.table() + " changed between being chosen by code and being locked.");
                }
            });
        }
    }

    /** How many rows were asked for, and are left out for what they are marked as. */
    long leftOut(@Nullable Condition which) {
        if (which == null || target.filter() != null) {
            return 0;
        }
        long leftOut = 0;
        for (Sql asked : among(asked).map(this::asking).toList()) {
            Sql count = Sql.of(
                            "SELECT COUNT(*) FROM " + session.dialect().syntax().table(root) + " t WHERE ")
                    .add(selected.scoped(asked))
                    .add(" AND ")
                    .add(terms.condition(root, which));
            leftOut += session.number(count, StatementContext.of("counting rows of", root));
        }
        return leftOut;
    }
}
