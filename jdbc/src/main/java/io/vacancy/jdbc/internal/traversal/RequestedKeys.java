// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Keys that somebody asked for, whether their rows are there or not, each once. Few stay in memory, many go
 * to a key table.
 */
final class RequestedKeys {

    /** How many of them one statement looks up where they are few. */
    private static final int AT_ONCE = 500;

    /** How many one statement names where they are many, and go without a key table. */
    private static final int IN_A_PART = 1_000;

    /** How many numbers are kept here; more are left to the database. */
    private static final long MOST_PACKED = 2_000_000;

    private final Session session;
    private final Table table;
    private final List<KeyColumn> identity;
    private final Set<List<Object>> few = new LinkedHashSet<>();
    /** Whole numbers in their order, each once. */
    private long @Nullable [] packed;

    private @Nullable KeyTable many;
    private long size;

    /** @param given how many keys there are, with those that are there twice */
    RequestedKeys(Session session, Table table, List<KeyColumn> identity, Iterator<List<Object>> keys, long given) {
        this.session = session;
        this.table = table;
        this.identity = identity;
        while (keys.hasNext() && few.size() <= session.keysInMemory()) {
            few.add(keys.next());
        }
        size = few.size();
        if (size > session.keysInMemory()) {
            boolean numbers =
                    identity.size() == 1 && identity.get(0).type().kind() == ValueKind.INTEGER && given <= MOST_PACKED;
            if (numbers) {
                pack(keys, (int) given);
            } else {
                spool(Stream.empty(), keys);
            }
        }
    }

    /** A number that is given twice is found by sorting, which is quicker here than in the database. */
    private void pack(Iterator<List<Object>> rest, int given) {
        long[] numbers = new long[given];
        int length = 0;
        Iterator<List<Object>> keys = Stream.concat(few.stream(), stream(rest)).iterator();
        while (keys.hasNext()) {
            List<Object> key = keys.next();
            if (!(key.get(0) instanceof Long number)) {
                few.clear();
                LongStream before = Arrays.stream(numbers, 0, length);
                spool(Stream.concat(before.mapToObj(List::<Object>of), Stream.of(key)), keys);
                return;
            }
            numbers[length++] = number;
        }
        few.clear();
        Arrays.sort(numbers, 0, length);
        int distinct = 0;
        for (int i = 0; i < length; i++) {
            if (i == 0 || numbers[i] != numbers[i - 1]) {
                numbers[distinct++] = numbers[i];
            }
        }
        packed = Arrays.copyOf(numbers, distinct);
        size = distinct;
    }

    /** The same key may be given twice, and the engines do not agree on how to pass over the second. */
    private void spool(Stream<List<Object>> first, Iterator<List<Object>> rest) {
        StatementContext context = StatementContext.of("keeping keys of", table.name());
        Iterator<List<Object>> all = Stream.concat(Stream.concat(few.stream(), first), stream(rest))
                .map(RequestedKeys::asMember)
                .iterator();
        KeyTable given = KeyTable.make(session, table, identity, 0);
        given.add(all);
        few.clear();
        KeyTable distinct = KeyTable.make(session, table, identity, identity.size());
        size = distinct.add(Sql.of("SELECT DISTINCT " + keys() + ", 0, 0 FROM " + given.name()), context);
        distinct.analyse();
        many = distinct;
    }

    private static <T> Stream<T> stream(Iterator<T> rest) {
        return Stream.generate(() -> rest).takeWhile(Iterator::hasNext).map(Iterator::next);
    }

    private static List<Object> asMember(List<Object> key) {
        List<Object> member = new ArrayList<>(key);
        member.add(0L);
        member.add(0L);
        return member;
    }

    private String keys() {
        return String.join(", ", KeyTable.names(0, identity.size()));
    }

    /** Whether they are numbers that are kept here, of which {@link #parts} tells without a key table. */
    boolean arePacked() {
        return packed != null;
    }

    /** Conditions on a row t of which one holds for every row that was asked for; some thousand keys to each. */
    Stream<Sql> parts() {
        long[] numbers = Objects.requireNonNull(packed);
        List<String> expressions = expressions();
        return IntStream.iterate(0, from -> from < numbers.length, from -> from + IN_A_PART)
                .mapToObj(from -> Arrays.stream(numbers, from, Math.min(from + IN_A_PART, numbers.length))
                        .mapToObj(List::<Object>of)
                        .toList())
                .map(keys -> session.dialect().syntax().inList(expressions, identity, keys));
    }

    private List<String> expressions() {
        return identity.stream()
                .map(column -> session.dialect().syntax().column("t", column))
                .toList();
    }

    /** The key table, where they are many. */
    private @Nullable KeyTable table() {
        if (many == null && packed != null) {
            KeyTable numbers = KeyTable.make(session, table, identity, identity.size());
            numbers.add(Arrays.stream(packed)
                    .mapToObj(number -> asMember(List.of(number)))
                    .iterator());
            numbers.analyse();
            many = numbers;
        }
        return many;
    }

    /** How many different keys. */
    long size() {
        return size;
    }

    /** Conditions on a row t of which one holds for every row that was asked for. */
    List<Sql> conditions() {
        List<String> expressions = expressions();
        KeyTable many = table();
        if (many != null) {
            return List.of(session.dialect()
                    .syntax()
                    .inKeyTable(expressions, many.name(), KeyTable.names(0, identity.size()), new Sql()));
        }
        List<List<Object>> keys = List.copyOf(few);
        List<Sql> conditions = new ArrayList<>();
        for (int from = 0; from < keys.size(); from += AT_ONCE) {
            List<List<Object>> some = keys.subList(from, Math.min(from + AT_ONCE, keys.size()));
            conditions.add(session.dialect().syntax().inList(expressions, identity, some));
        }
        return conditions;
    }

    /**
     * How many of the keys are not there.
     *
     * @param scope what holds on every row t that the caller may see, or null
     */
    long missing(@Nullable Sql scope) {
        StatementContext context = StatementContext.of("counting keys in", table.name());
        long there = 0;
        for (Sql condition : conditions()) {
            Sql count = Sql.of(
                            "SELECT COUNT(*) FROM " + session.dialect().syntax().table(table.name()) + " t WHERE ")
                    .add(condition);
            there += session.number(scope == null ? count : count.add(" AND ").add(scope), context);
        }
        return size - there;
    }

    /** The keys that are not there, as rows that hold just the key; in key order where they are many. */
    Stream<Row> streamMissing(@Nullable Sql scope, @Nullable Integer limit) {
        StatementContext context = StatementContext.of("looking for keys in", table.name());
        KeyTable many = table();
        if (many == null) {
            Set<List<?>> there = new HashSet<>();
            for (Sql condition : conditions()) {
                String columns = identity.stream()
                        .map(column -> session.dialect().syntax().column("t", column))
                        .collect(Collectors.joining(", "));
                Sql select = Sql.of("SELECT " + columns + " FROM "
                                + session.dialect().syntax().table(table.name()) + " t WHERE ")
                        .add(condition);
                there.addAll(session.query(
                        scope == null ? select : select.add(" AND ").add(scope), context, this::key));
            }
            return few.stream()
                    .filter(key -> !there.contains(key))
                    .limit(limit == null ? Long.MAX_VALUE : limit)
                    .map(this::row);
        }
        Sql select = Sql.of("SELECT " + keys() + " FROM " + many.name() + " m WHERE NOT EXISTS (SELECT 1 FROM "
                + session.dialect().syntax().table(table.name()) + " t WHERE ");
        for (int i = 0; i < identity.size(); i++) {
            select.add(
                    (i == 0 ? "" : " AND ") + session.dialect().syntax().column("t", identity.get(i)) + " = m.k" + i);
        }
        if (scope != null) {
            select.add(" AND ").add(scope);
        }
        select.add(") ORDER BY " + keys())
                .add(limit == null ? "" : session.dialect().syntax().firstRows(limit));
        return session.stream(select, context, result -> row(key(result)));
    }

    private List<@Nullable Object> key(ResultSet result) throws SQLException {
        List<@Nullable Object> key = new ArrayList<>();
        for (int i = 0; i < identity.size(); i++) {
            key.add(session.dialect()
                    .values()
                    .read(result, i + 1, identity.get(i).type()));
        }
        return key;
    }

    private Row row(List<? extends @Nullable Object> key) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        for (int i = 0; i < identity.size(); i++) {
            values.put(identity.get(i).name(), key.get(i));
        }
        return new Row(table.name(), values);
    }
}
