// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import io.vacancy.spi.plan.RelationStep;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.StreamSupport;
import org.jspecify.annotations.Nullable;

/**
 * A growing set of rows of one table, known by their keys. Few keys stay in memory and travel as bound
 * values; many go to a key table in the database, and from then on the database does the work alone.
 */
public final class KeySet {

    private static final Set<ValueKind> IN_ONE_ORDER =
            EnumSet.of(ValueKind.INTEGER, ValueKind.DECIMAL, ValueKind.DATE, ValueKind.TIMESTAMP, ValueKind.INSTANT);

    private final Session session;
    private final Table table;
    private final List<KeyColumn> columns;
    private final int identityWidth;
    private final @Nullable Sql scope;
    private final Map<List<@Nullable Object>, Member> listed = new LinkedHashMap<>();
    private final Map<Integer, Long> counts = new LinkedHashMap<>();
    private @Nullable KeyTable keyTable;
    /** Conditions of which one holds for each row, where no keys are kept. */
    private @Nullable Iterable<Sql> description;

    private long analysed;
    private List<List<@Nullable Object>> latest = new ArrayList<>();
    private int latestRound = -1;
    /** The last round of which some rows are in the key table alone. */
    private int unlisted;

    private long size;

    private record Member(List<@Nullable Object> values, int via, int round) {
        List<@Nullable Object> whole() {
            List<@Nullable Object> whole = new ArrayList<>(values);
            whole.add((long) via);
            whole.add((long) round);
            return whole;
        }
    }

    /**
     * @param columns the identity's columns, then others that relations refer to
     * @param identityWidth how many of them are the identity
     * @param scope what holds on every row t that may be touched, or null
     */
    KeySet(Session session, Table table, List<KeyColumn> columns, int identityWidth, @Nullable Sql scope) {
        this.scope = scope;
        this.session = session;
        this.table = table;
        this.columns = List.copyOf(columns);
        this.identityWidth = identityWidth;
    }

    /** The rows t of a table for which a condition holds; of a table with a lasting key. */
    public static KeySet of(Session session, Table table, Sql which, StatementContext context) {
        List<KeyColumn> key = table.identity().columns().stream()
                .map(name -> new KeyColumn(name, table.column(name).type(), false))
                .toList();
        KeySet rows = new KeySet(session, table, key, key.size(), null);
        rows.add(which, Selecting.SELECTED, 0, Finding.LOOKED_AT, context);
        return rows;
    }

    public Table table() {
        return table;
    }

    /** How many rows. */
    public long size() {
        return size;
    }

    /** The ways that led to any of the rows. */
    List<Integer> ways() {
        return counts.entrySet().stream()
                .filter(count -> count.getValue() > 0)
                .map(Map.Entry::getKey)
                .toList();
    }

    /** How many of the rows were first reached by each way, in the order of the ways. */
    Map<Integer, Long> counts() {
        return counts;
    }

    /** The ways that led to rows, by the relation they went along; an empty name for the selection. */
    public Map<String, List<Integer>> byRelation(List<@Nullable RelationStep> ways) {
        Map<String, List<Integer>> vias = new LinkedHashMap<>();
        counts.forEach((via, count) -> {
            RelationStep branch = ways.get(via);
            if (count > 0) {
                vias.computeIfAbsent(branch == null ? "" : branch.relation().name(), name -> new ArrayList<>())
                        .add(via);
            }
        });
        return vias;
    }

    /** How many rows these ways led to. */
    public long count(List<Integer> vias) {
        return vias.stream().mapToLong(via -> counts.getOrDefault(via, 0L)).sum();
    }

    List<KeyColumn> identity() {
        return columns.subList(0, identityWidth);
    }

    /**
     * Adds the rows of the table, under the alias t, for which a condition holds and that are not in the set.
     *
     * @param via the number of the way that leads to them
     * @param round the round of a cycle that found them
     * @return how many rows were new
     */
    long add(Sql which, int via, int round, Finding finding, StatementContext context) {
        return add(which, null, "", via, round, finding, context);
    }

    /**
     * The same, of the first rows only.
     *
     * @param first how many at most, or null for all
     * @param order by which they are counted off before the identity, with a comma behind it; or empty
     */
    long add(
            Sql which,
            @Nullable Long first,
            String order,
            int via,
            int round,
            Finding finding,
            StatementContext context) {
        boolean lock = finding.locks();
        Sql condition = scoped(which);
        session.pace().at(table.name());
        if (keyTable == null) {
            int few = session.keysInMemory();
            long enough = few + listed.size() + 1L;
            Sql select = select(condition).add(inOrder(order));
            long most = first == null ? enough : Math.min(first, enough);
            // What depends on few rows is mostly few; what a condition selects may be anything.
            select.add(via == Selecting.SELECTED ? syntax().firstRows(most) : syntax().firstOfFewRows(most));
            select.add(lock ? session.dialect().locking().forUpdate() : "");
            List<List<@Nullable Object>> found = session.first((int) most, select, context, this::values);
            found.removeIf(values -> listed.containsKey(values.subList(0, identityWidth)));
            if (listed.size() + found.size() <= few) {
                found.forEach(values -> list(values, via, round));
                return counted(via, found.size());
            }
            boolean counted = finding == Finding.COUNTED && first == null && listed.isEmpty();
            if (counted && describe(List.of(which), via, context)) {
                return size;
            }
            spool();
            // Of this round some rows may have been listed in memory before.
            unlisted = round;
        }
        if (round > 0) {
            List<List<@Nullable Object>> few = fewNew(condition, lock, context);
            if (few != null) {
                remember(few, round);
                keys().add(few.stream()
                        .map(values -> new Member(values, via, round).whole())
                        .iterator());
                return counted(via, few.size());
            }
            forget(round);
        }
        String counting = first == null ? (lock ? inOrder(order) : "") : inOrder(order) + syntax().firstRows(first);
        String ending = counting + (lock ? session.dialect().locking().forUpdate() : "");
        long added = counted(via, keys().add(query(condition, via, round).add(ending), context));
        if (size > 2 * analysed) {
            analysed = size;
            keys().analyse();
        }
        return added;
    }

    /** Rows of one round may come by several ways; the latest are known only if all of them are. */
    private void remember(List<List<@Nullable Object>> few, int round) {
        if (latestRound == round) {
            latest.addAll(few);
        } else if (unlisted < round) {
            latest = new ArrayList<>(few);
            latestRound = round;
        }
    }

    private void forget(int round) {
        unlisted = round;
        latest = new ArrayList<>();
        latestRound = -1;
    }

    /**
     * In a deep cycle each round finds few rows; they are fetched, so that the next round can name them instead
     * of searching for them among all that were found before. Null where they are many.
     */
    private @Nullable List<List<@Nullable Object>> fewNew(Sql condition, boolean lock, StatementContext context) {
        int few = session.keysInMemory();
        Sql select = select(condition)
                .add(" AND NOT ")
                .add(contains("t"))
                .add(inOrder("") + syntax().firstRows(few + 1))
                .add(lock ? session.dialect().locking().forUpdate() : "");
        List<List<@Nullable Object>> found = session.query(select, context, this::values);
        return found.size() <= few ? found : null;
    }

    /** Looks at the rows for which a condition holds, and counts them in without keeping their keys. */
    void countEach(Sql which, int via, Consumer<List<?>> consumer, StatementContext context) {
        session.pace().at(table.name());
        Sql select = Sql.of("SELECT "
                        + identity().stream()
                                .map(column -> syntax().column("t", column))
                                .collect(Collectors.joining(", "))
                        + " FROM " + syntax().table(table.name()) + " t WHERE ")
                .add(which);
        AtomicLong found = new AtomicLong();
        session.forEach(select, context, rows -> {
            found.incrementAndGet();
            session.pace().did(table.name(), 1);
            consumer.accept(values(rows, identityWidth));
        });
        size += found.get();
        counts.merge(via, found.get(), Long::sum);
    }

    /**
     * Counts the rows for which one of some conditions holds, and takes the conditions for them instead of their keys, if
     * they are many.
     *
     * @param parts of which each row fulfils one at most
     */
    boolean describe(Iterable<Sql> parts, int via, StatementContext context) {
        long found = 0;
        for (Sql part : parts) {
            Sql count = Sql.of("SELECT COUNT(*) FROM " + syntax().table(table.name()) + " t WHERE ");
            found += session.number(count.add(scoped(part)), context);
        }
        if (found <= Math.max(session.keysInMemory(), Samples.RECORDS)) {
            return false;
        }
        description = parts;
        counted(via, found);
        return true;
    }

    /** Whether the rows are known by conditions, in {@link #runs}, and not by their keys. */
    public boolean described() {
        return description != null;
    }

    /** So many of the rows that were described have gone. */
    public void went(long rows) {
        size = rows;
        counts.replaceAll((via, count) -> rows);
    }

    private KeyTable keys() {
        return Objects.requireNonNull(keyTable);
    }

    /**
     * Adds few rows and hands them back whole; for keys that are columns of the table.
     *
     * @return the rows that were new
     */
    List<Row> addWhole(Sql which, int via, boolean lock, StatementContext context) {
        Rows reading = new Rows(session, table);
        List<Row> rows = lock ? reading.locked(scoped(which), context) : reading.all(scoped(which), context);
        for (Row row : rows) {
            List<@Nullable Object> values = new ArrayList<>();
            columns.forEach(column -> values.add(row.get(column.name())));
            list(values, via, 0);
        }
        counted(via, rows.size());
        return rows;
    }

    private void list(List<@Nullable Object> values, int via, int round) {
        listed.put(values.subList(0, identityWidth), new Member(values, via, round));
    }

    /** Counts rows that went without having been looked at. */
    public long counted(int via, long added) {
        session.pace().did(table.name(), added);
        size += added;
        counts.merge(via, added, Long::sum);
        return added;
    }

    private Sql select(Sql condition) {
        return Sql.of("SELECT " + names("t") + " FROM " + syntax().table(table.name()) + " t WHERE ")
                .add(condition);
    }

    private Sql query(Sql condition, int via, int round) {
        List<String> identity =
                identity().stream().map(column -> syntax().column("t", column)).toList();
        return Sql.of("SELECT " + names("t") + ", " + via + ", " + round + " FROM " + syntax().table(table.name())
                        + " t WHERE ")
                .add(condition)
                .add(size == 0 ? "" : " AND NOT ")
                .add(
                        size == 0
                                ? new Sql()
                                : session.dialect()
                                        .syntax()
                                        .inKeyTable(
                                                identity, keys().name(), KeyTable.names(0, identityWidth), new Sql()));
    }

    private String names(String alias) {
        return columns.stream().map(column -> syntax().column(alias, column)).collect(Collectors.joining(", "));
    }

    private Syntax syntax() {
        return session.dialect().syntax();
    }

    private String inOrder(String order) {
        return " ORDER BY " + order
                + identity().stream()
                        .map(column -> syntax().ordering("t", column))
                        .collect(Collectors.joining(", "));
    }

    private void spool() {
        keyTable = KeyTable.make(session, table, columns, identityWidth);
        keyTable.add(listed.values().stream().map(Member::whole).iterator());
        listed.clear();
    }

    /** The condition, and that row t is inside the scope. */
    public Sql scoped(Sql condition) {
        return scope == null ? condition : new Sql().add(condition).add(" AND ").add(scope);
    }

    /** Whether row t is in the set, and still inside the scope. */
    public Sql mayTouch() {
        return scoped(contains("t"));
    }

    /**
     * Conditions that part the set into runs of about so many rows each, by which a long statement can be done
     * in steps; each may touch rows t. A single one where the set is small, or its keys have no order that Java
     * and the database agree on.
     */
    public Iterable<Sql> runs(long rows) {
        if (description != null) {
            return StreamSupport.stream(description.spliterator(), false).map(this::scoped)::iterator;
        }
        KeyColumn leading = columns.get(0);
        if (keyTable == null
                || size <= rows
                || !IN_ONE_ORDER.contains(leading.type().kind())) {
            return List.of(mayTouch());
        }
        List<Object> ends = keyTable.every(rows, 0);
        List<String> keys =
                identity().stream().map(column -> syntax().column("t", column)).toList();
        List<Sql> runs = new ArrayList<>();
        for (int i = 0; i <= ends.size(); i++) {
            Object after = i == 0 ? null : ends.get(i - 1);
            Object upTo = i == ends.size() ? null : ends.get(i);
            Sql run = session.dialect()
                    .syntax()
                    .inKeyTable(keys, keyTable.name(), KeyTable.names(0, identityWidth), between("k.k0", after, upTo));
            runs.add(scoped(run.add(between(keys.get(0), after, upTo))));
        }
        return runs;
    }

    private Sql between(String what, @Nullable Object after, @Nullable Object upTo) {
        ColumnType type = columns.get(0).type();
        Sql sql = new Sql();
        if (after != null) {
            sql.add(" AND " + what + " > ").bind(after, type);
        }
        if (upTo != null) {
            sql.add(" AND " + what + " <= ").bind(upTo, type);
        }
        return sql;
    }

    /** Whether the row under an alias is in the set. */
    public Sql contains(String alias) {
        return contains(alias, null);
    }

    /** The same; only of the rows that this round found, unless it is null. */
    Sql contains(String alias, @Nullable Integer round) {
        return among(alias, identity().stream().map(KeyColumn::name).toList(), null, round);
    }

    /** Whether the row under an alias is one of those that one of these ways led to first. */
    public Sql containsVia(String alias, @Nullable List<Integer> via) {
        return among(alias, identity().stream().map(KeyColumn::name).toList(), via, null);
    }

    /**
     * Whether columns of the row under an alias equal columns of a row in the set.
     *
     * @param theirs columns under the alias
     * @param ours columns of this set's table, in the same order
     * @param round only rows that this round found, or null for all
     */
    Sql refersTo(String alias, List<String> theirs, List<String> ours, @Nullable Integer round) {
        return refersTo(alias, theirs, ours, null, round);
    }

    /** The same of the rows that one of these ways led to; null for all. */
    Sql refersTo(
            String alias,
            List<String> theirs,
            List<String> ours,
            @Nullable List<Integer> via,
            @Nullable Integer round) {
        List<String> expressions =
                theirs.stream().map(name -> alias + "." + syntax().quote(name)).toList();
        return among(expressions, ours, via, round);
    }

    private Sql among(String alias, List<String> names, @Nullable List<Integer> via, @Nullable Integer round) {
        List<String> expressions = names.stream()
                .map(name -> syntax().column(alias, columns.get(position(name))))
                .toList();
        return among(expressions, names, via, round);
    }

    private Sql among(
            List<String> expressions, List<String> ours, @Nullable List<Integer> via, @Nullable Integer round) {
        if (description != null) {
            throw new IllegalStateException("the keys of " + table + " are not kept");
        }
        List<Integer> positions = ours.stream().map(this::position).toList();
        if (keyTable != null && round != null && round == latestRound) {
            return inList(expressions, positions, latest);
        }
        if (keyTable != null) {
            Sql further = new Sql();
            further.add(
                    via == null
                            ? ""
                            : " AND k." + KeyTable.VIA + " IN ("
                                    + via.stream().map(String::valueOf).collect(Collectors.joining(", ")) + ")");
            further.add(round == null ? "" : " AND k." + KeyTable.ROUND + " = " + round);
            List<String> names =
                    positions.stream().map(position -> "k" + position).toList();
            return syntax().inKeyTable(expressions, keyTable.name(), names, further);
        }
        List<List<@Nullable Object>> members = new ArrayList<>(listed.size());
        for (Member member : listed.values()) {
            if ((via == null || via.contains(member.via())) && (round == null || member.round() == round)) {
                members.add(member.values());
            }
        }
        return inList(expressions, positions, members);
    }

    /** Built without streams: it is most of what is computed here for a deletion of some hundred rows. */
    private Sql inList(List<String> expressions, List<Integer> positions, List<List<@Nullable Object>> members) {
        List<List<Object>> keys = new ArrayList<>(members.size());
        for (List<@Nullable Object> values : members) {
            List<Object> key = new ArrayList<>(positions.size());
            for (int position : positions) {
                Object value = values.get(position);
                if (value != null) {
                    key.add(value);
                }
            }
            if (key.size() == positions.size()) {
                keys.add(key);
            }
        }
        if (keys.isEmpty()) {
            return Sql.of("1 = 0");
        }
        return session.dialect()
                .syntax()
                .inList(expressions, positions.stream().map(columns::get).toList(), keys);
    }

    private int position(String name) {
        for (int i = 0; i < columns.size(); i++) {
            if (columns.get(i).name().equals(name)) {
                return i;
            }
        }
        throw new IllegalStateException("column " + name + " of " + table + " is not kept");
    }

    /** Hands over the identity of every row, in no particular order. */
    void forEachIdentity(Consumer<List<?>> consumer) {
        if (keyTable == null) {
            listed.keySet().forEach(consumer);
            return;
        }
        Sql select =
                Sql.of("SELECT " + String.join(", ", KeyTable.names(0, identityWidth)) + " FROM " + keyTable.name());
        session.forEach(
                select,
                StatementContext.of("reading keys of", table.name()),
                rows -> consumer.accept(values(rows, identityWidth)));
    }

    /**
     * The keys of some of the rows; none where they do not last.
     *
     * @param via only of rows that these ways led to, or null for all
     */
    public List<List<Object>> keys(@Nullable List<Integer> via, int most) {
        if (!table.identity().lasts()) {
            return List.of();
        }
        if (keyTable == null) {
            return listed.entrySet().stream()
                    .filter(member ->
                            via == null || via.contains(member.getValue().via()))
                    .limit(most)
                    .map(member -> Keys.whole(member.getKey()))
                    .toList();
        }
        Sql select = Sql.of("SELECT " + String.join(", ", KeyTable.names(0, columns.size())) + " FROM "
                + keyTable.name()
                + (via == null
                        ? ""
                        : " WHERE " + KeyTable.VIA + " IN ("
                                + via.stream().map(String::valueOf).collect(Collectors.joining(", ")) + ")")
                + syntax().firstRows(most));
        return session.query(
                select,
                StatementContext.of("reading keys of", table.name()),
                rows -> Keys.whole(values(rows).subList(0, identityWidth)));
    }

    private List<@Nullable Object> values(ResultSet rows) throws SQLException {
        return values(rows, columns.size());
    }

    private List<@Nullable Object> values(ResultSet rows, int width) throws SQLException {
        List<@Nullable Object> values = new ArrayList<>(width);
        for (int i = 0; i < width; i++) {
            values.add(session.dialect()
                    .values()
                    .readDecoded(rows, i + 1, columns.get(i).type()));
        }
        return values;
    }
}
