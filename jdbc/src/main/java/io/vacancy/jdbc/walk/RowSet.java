package io.vacancy.jdbc.walk;

import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.sql.KeyColumn;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * A growing set of rows of one table, known by their keys. Few keys stay in memory and travel as bound
 * values; many go to a key table in the database, and from then on the database does the work alone.
 */
public final class RowSet {

    private static final String VIA = "via";
    private static final String ROUND = "round";

    private final Session session;
    private final Table table;
    private final List<KeyColumn> columns;
    private final int identityWidth;
    private final @Nullable Sql scope;
    private final Map<List<@Nullable Object>, Member> listed = new LinkedHashMap<>();
    private final Map<Integer, Long> counts = new LinkedHashMap<>();
    private @Nullable String keyTable;
    private long size;

    private record Member(List<@Nullable Object> values, int via, int round) {}

    /**
     * @param columns the identity's columns, then others that relations refer to
     * @param identityWidth how many of them are the identity
     * @param scope what holds on every row t that may be touched, or null
     */
    RowSet(Session session, Table table, List<KeyColumn> columns, int identityWidth, @Nullable Sql scope) {
        this.scope = scope;
        this.session = session;
        this.table = table;
        this.columns = List.copyOf(columns);
        this.identityWidth = identityWidth;
    }

    public Table table() {
        return table;
    }

    /** How many rows. */
    public long size() {
        return size;
    }

    /** How many of the rows were first reached by each way, in the order of the ways. */
    Map<Integer, Long> counts() {
        return counts;
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
    long add(Sql which, int via, int round, boolean lock, Context context) {
        Sql condition = scoped(which);
        if (keyTable == null) {
            int few = session.keysInMemory();
            Sql select = select(condition).add(orderByIdentity());
            select.add(" LIMIT " + (few + listed.size() + 1));
            select.add(lock ? session.dialect().forUpdate() : "");
            List<List<@Nullable Object>> found = session.query(select, context, this::values);
            found.removeIf(values -> listed.containsKey(values.subList(0, identityWidth)));
            if (listed.size() + found.size() <= few) {
                found.forEach(values -> list(values, via, round));
                return counted(via, found.size());
            }
            spool();
        }
        return counted(via, session.update(insert(condition, via, round, lock), context));
    }

    /**
     * Adds few rows and hands them back whole; for keys that are columns of the table.
     *
     * @return the rows that were new
     */
    List<Row> addWhole(Sql which, int via, boolean lock, Context context) {
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
        size += added;
        counts.merge(via, added, Long::sum);
        return added;
    }

    private Sql select(Sql condition) {
        return Sql.of("SELECT " + names("t") + " FROM " + session.dialect().table(table.name()) + " t WHERE ")
                .add(condition);
    }

    private Sql insert(Sql condition, int via, int round, boolean lock) {
        List<String> identity = identity().stream()
                .map(column -> session.dialect().column("t", column))
                .toList();
        return Sql.of("INSERT INTO " + keyTable + " SELECT " + names("t") + ", " + via + ", " + round + " FROM "
                        + session.dialect().table(table.name()) + " t WHERE ")
                .add(condition)
                .add(" AND NOT ")
                .add(session.dialect()
                        .inKeyTable(identity, String.valueOf(keyTable), keyNames(0, identityWidth), new Sql()))
                .add(lock ? orderByIdentity() + session.dialect().forUpdate() : "");
    }

    private String names(String alias) {
        return columns.stream()
                .map(column -> session.dialect().column(alias, column))
                .collect(Collectors.joining(", "));
    }

    private String orderByIdentity() {
        return " ORDER BY "
                + identity().stream()
                        .map(column -> session.dialect().column("t", column))
                        .collect(Collectors.joining(", "));
    }

    private static List<String> keyNames(int from, int to) {
        return IntStream.range(from, to).mapToObj(i -> "k" + i).toList();
    }

    private void spool() {
        String name = session.nextKeyTable();
        Context context = Context.of("keeping keys of", table.name());
        List<String> definitions = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            definitions.add(
                    ("k" + i + " " + session.dialect().keyType(columns.get(i).type())).strip());
        }
        definitions.add(VIA + " INTEGER");
        definitions.add(ROUND + " INTEGER");
        session.update(
                Sql.of(session.dialect().createKeyTable(name, definitions, keyNames(0, identityWidth))), context);
        keyTable = name;
        List<Member> members = List.copyOf(listed.values());
        listed.clear();
        if (members.isEmpty()) {
            return;
        }
        Sql insert = Sql.of("INSERT INTO " + name + " VALUES ");
        for (int i = 0; i < members.size(); i++) {
            insert.add(i == 0 ? "(" : ", (");
            for (int j = 0; j < columns.size(); j++) {
                Object value = members.get(i).values().get(j);
                if (value == null) {
                    insert.add("NULL, ");
                } else {
                    insert.bind(value, columns.get(j).type()).add(", ");
                }
            }
            insert.add(members.get(i).via() + ", " + members.get(i).round() + ")");
        }
        session.update(insert, context);
    }

    private Sql scoped(Sql condition) {
        return scope == null ? condition : new Sql().add(condition).add(" AND ").add(scope);
    }

    /** Whether row t is in the set, and still inside the scope. */
    public Sql mayTouch() {
        return scoped(contains("t"));
    }

    /** Whether the row under an alias is in the set. */
    public Sql contains(String alias) {
        return among(alias, identity().stream().map(KeyColumn::name).toList(), null, null);
    }

    /** Whether the row under an alias is one of those that one of these ways led to first. */
    Sql containsVia(String alias, List<Integer> via) {
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
        List<String> expressions = theirs.stream()
                .map(name -> alias + "." + session.dialect().quote(name))
                .toList();
        return among(expressions, ours, null, round);
    }

    private Sql among(String alias, List<String> names, @Nullable List<Integer> via, @Nullable Integer round) {
        List<String> expressions = names.stream()
                .map(name -> session.dialect().column(alias, columns.get(position(name))))
                .toList();
        return among(expressions, names, via, round);
    }

    private Sql among(
            List<String> expressions, List<String> ours, @Nullable List<Integer> via, @Nullable Integer round) {
        List<Integer> positions = ours.stream().map(this::position).toList();
        if (keyTable != null) {
            Sql further = new Sql();
            further.add(
                    via == null
                            ? ""
                            : " AND k." + VIA + " IN ("
                                    + via.stream().map(String::valueOf).collect(Collectors.joining(", ")) + ")");
            further.add(round == null ? "" : " AND k." + ROUND + " = " + round);
            List<String> names =
                    positions.stream().map(position -> "k" + position).toList();
            return session.dialect().inKeyTable(expressions, keyTable, names, further);
        }
        List<List<Object>> keys = listed.values().stream()
                .filter(member -> via == null || via.contains(member.via()))
                .filter(member -> round == null || member.round() == round)
                .map(member -> positions.stream()
                        .<@Nullable Object>map(member.values()::get)
                        .toList())
                .filter(key -> key.stream().noneMatch(value -> value == null))
                .<List<Object>>map(List::copyOf)
                .toList();
        if (keys.isEmpty()) {
            return Sql.of("1 = 0");
        }
        return session.dialect()
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
        Sql select = Sql.of("SELECT " + String.join(", ", keyNames(0, columns.size())) + " FROM " + keyTable);
        session.forEach(
                select,
                Context.of("reading keys of", table.name()),
                rows -> consumer.accept(values(rows).subList(0, identityWidth)));
    }

    private List<@Nullable Object> values(ResultSet rows) throws SQLException {
        List<@Nullable Object> values = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            values.add(session.dialect().read(rows, i + 1, columns.get(i).type()));
        }
        return values;
    }
}
