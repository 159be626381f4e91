// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.jdbc.spi.Sql;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.UnaryOperator;

/** Temporary tables, which nobody else sees. */
final class OwnKeyTables implements KeyTables {

    // Names are never used twice, since a caller's transaction may go on after us, and a pool outlive a class loader.
    private static final AtomicLong NUMBER = new AtomicLong();
    private static final String LOADED = Long.toString(new SecureRandom().nextLong() >>> 44, 36) + "_";

    private final Session session;
    private final List<String> names = new ArrayList<>();

    OwnKeyTables(Session session) {
        this.session = session;
    }

    @Override
    public String provide(UnaryOperator<String> definition, StatementContext context) {
        String name = Session.KEY_TABLES + LOADED + NUMBER.incrementAndGet();
        names.add(name);
        session.update(Sql.of(definition.apply(name)), context);
        return name;
    }

    @Override
    public List<String> beforeCommit() {
        return List.of();
    }

    @Override
    public List<String> afterwards() {
        return names.stream()
                .map(name -> session.dialect().temporaryTables().dropKeyTable(name))
                .filter(Objects::nonNull)
                .toList();
    }

    @Override
    public void release() {}
}
