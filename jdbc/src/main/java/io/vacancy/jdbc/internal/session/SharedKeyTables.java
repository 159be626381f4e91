// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.jdbc.spi.Sql;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.WeakHashMap;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * Key tables that stay in the database, empty but for rows that are never committed, so that making them is no part of
 * a deletion. A session has those of one slot to itself, by a lock on the slot's row that ends with its transaction.
 */
final class SharedKeyTables implements KeyTables {

    private static final String SLOTS = Session.KEY_TABLES + "slot";
    private static final int MANY = 64;

    /** Several sessions may work on a caller's connection at a time, and there a lock keeps nobody out. */
    private static final Map<Connection, Set<String>> USED = Collections.synchronizedMap(new WeakHashMap<>());

    private final Session session;
    private final Connection connection;
    private final Consumer<String> beside;
    private final List<String> names = new ArrayList<>();
    private int slot = -1;

    SharedKeyTables(Session session, Connection connection, Consumer<String> beside) {
        this.session = session;
        this.connection = connection;
        this.beside = beside;
    }

    @Override
    public String provide(UnaryOperator<String> definition, StatementContext context) {
        if (slot < 0) {
            beside.accept(session.dialect().temporaryTables().createKeySlots(SLOTS, MANY));
            slot = slot(context);
        }
        // Tables of one shape serve any relation; the name says the shape.
        String shape = UUID.nameUUIDFromBytes(definition.apply("").getBytes(StandardCharsets.UTF_8))
                .toString()
                .substring(0, 13)
                .replace("-", "");
        String name = unused(Session.KEY_TABLES + slot + "_" + shape + "_");
        beside.accept(definition.apply(name));
        session.update(Sql.of("DELETE FROM " + name), context);
        return name;
    }

    private String unused(String begin) {
        Set<String> used = USED.computeIfAbsent(connection, any -> Collections.synchronizedSet(new HashSet<>()));
        int number = 0;
        while (!used.add(begin + number)) {
            number++;
        }
        names.add(begin + number);
        return begin + number;
    }

    /** The first that is free; where none is, the last is waited for. */
    private int slot(StatementContext context) {
        for (int i = 0; i < MANY; i++) {
            String skip = i < MANY - 1 ? " SKIP LOCKED" : "";
            Sql lock = Sql.of("SELECT slot FROM " + SLOTS + " WHERE slot = " + i + " FOR UPDATE" + skip);
            if (!session.query(lock, context, row -> row.getInt(1)).isEmpty()) {
                return i;
            }
        }
        throw new IllegalStateException("the slots of key tables were not made");
    }

    @Override
    public List<String> beforeCommit() {
        return names.stream().map(name -> "DELETE FROM " + name).toList();
    }

    @Override
    public List<String> afterwards() {
        return List.of();
    }

    @Override
    public void release() {
        Set<String> used = USED.get(connection);
        if (used != null) {
            used.removeAll(names);
        }
    }
}
