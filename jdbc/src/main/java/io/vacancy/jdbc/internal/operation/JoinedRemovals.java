// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;

/**
 * Removals that nothing has to be looked at in between, sent together where the driver can: of a record with few
 * dependants most of the time is the way to the server and back.
 */
final class JoinedRemovals {

    private final Session session;
    private final List<Removal> waiting = new ArrayList<>();

    private record Removal(Sql statement, StatementContext context, LongConsumer counted) {}

    JoinedRemovals(Session session) {
        this.session = session;
    }

    /**
     * Removes, now or together with what follows.
     *
     * @param counted told how many rows went
     */
    void add(Sql statement, StatementContext context, LongConsumer counted) {
        waiting.add(new Removal(statement, context, counted));
        if (!session.dialect().syntax().joinsStatements()) {
            carryOut();
        }
    }

    /** Removes what is still waiting. */
    void carryOut() {
        if (waiting.isEmpty()) {
            return;
        }
        List<Removal> all = List.copyOf(waiting);
        waiting.clear();
        StatementContext first = all.get(0).context();
        long[] rows = all.size() == 1
                ? new long[] {session.update(all.get(0).statement(), first)}
                : session.updates(all.stream().map(Removal::statement).toList(), first);
        for (int i = 0; i < rows.length; i++) {
            all.get(i).counted().accept(rows[i]);
        }
    }
}
