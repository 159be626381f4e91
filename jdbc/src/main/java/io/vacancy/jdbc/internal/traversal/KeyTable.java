// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * A temporary table of keys: columns k0, k1 and so on, the way that led to each and the round that found it.
 * It lasts as long as the session.
 */
final class KeyTable {

    static final String VIA = "via";
    static final String ROUND = "round";

    private static final ColumnType NUMBER = ColumnType.of(ValueKind.INTEGER, "INTEGER");

    private final Session session;
    private final Table of;
    private final List<KeyColumn> columns;
    private final String name;

    private KeyTable(Session session, Table of, List<KeyColumn> columns, String name) {
        this.session = session;
        this.of = of;
        this.columns = columns;
        this.name = name;
    }

    /**
     * Makes an empty one.
     *
     * @param columns the identity's columns, then others
     * @param identityWidth how many of them are the identity, of which no two rows may be the same; 0 where
     *     any may
     */
    static KeyTable make(Session session, Table of, List<KeyColumn> columns, int identityWidth) {
        List<String> definitions = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            definitions.add(("k" + i + " "
                            + session.dialect()
                                    .temporaryTables()
                                    .keyType(columns.get(i).type()))
                    .strip());
        }
        definitions.add(VIA + " INTEGER");
        definitions.add(ROUND + " INTEGER");
        String name = session.keyTables()
                .provide(
                        called -> session.dialect()
                                .temporaryTables()
                                .createKeyTable(called, definitions, names(0, identityWidth)),
                        context(of));
        return new KeyTable(session, of, columns, name);
    }

    private StatementContext context() {
        return context(of);
    }

    private static StatementContext context(Table of) {
        return StatementContext.of("keeping keys of", of.name());
    }

    static List<String> names(int from, int to) {
        return IntStream.range(from, to).mapToObj(i -> "k" + i).toList();
    }

    String name() {
        return name;
    }

    /** Adds keys, each with the values of all columns, its way and its round. */
    void add(Iterator<? extends List<? extends @Nullable Object>> keys) {
        List<KeyColumn> all = new ArrayList<>(columns);
        all.add(new KeyColumn(VIA, NUMBER, false));
        all.add(new KeyColumn(ROUND, NUMBER, false));
        session.insert(name, all, keys, context());
    }

    /** Adds what a query finds. Returns how many. */
    long add(Sql query, StatementContext context) {
        return session.update(Sql.of("INSERT INTO " + name + " ").add(query), context);
    }

    /** Lets the engine's planner know how many keys there are, where it would not find out by itself. */
    void analyse() {
        String analyse = session.dialect().temporaryTables().analyse(name);
        if (analyse != null) {
            session.update(Sql.of(analyse), context());
        }
    }

    /** Every so-manieth value of a column, in its order and each once. */
    List<Object> every(long rows, int position) {
        String column = "k" + position;
        Sql select = Sql.of("SELECT " + column + " FROM (SELECT " + column + ", ROW_NUMBER() OVER (ORDER BY " + column
                + ") AS n FROM " + name + ") AS numbered WHERE n % " + rows + " = 0 ORDER BY " + column);
        ColumnType type = columns.get(position).type();
        List<Object> values = new ArrayList<>();
        session.forEach(select, context(), result -> {
            Object value = session.dialect().values().readDecoded(result, 1, type);
            if (value != null
                    && (values.isEmpty() || !values.get(values.size() - 1).equals(value))) {
                values.add(value);
            }
        });
        return values;
    }
}
