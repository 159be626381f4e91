// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.execute.Installation;
import io.vacancy.trail.OutboxEvent;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/**
 * Events for other systems, such as those that keep files, a search index or a cache: written in the transaction of
 * what was done, where the rule book names a source for them, and passed on afterwards at least once, in the order in
 * which they were written. An event that comes twice has the same identifier; one reader at a time is enough.
 */
public final class Outbox {

    private static final int AT_ONCE = 100;

    private final Installation at;

    Outbox(Installation at) {
        this.at = at;
    }

    /**
     * Events that were not passed on yet, oldest first; none of them is noted as passed on.
     *
     * @param most how many at most
     */
    public List<OutboxEvent> waiting(int most) {
        at.wantsOwnTables();
        if (most < 1) {
            throw new MisuseException(most + " events are none.", "Ask for one or more.");
        }
        return at.store().trail().waiting(most);
    }

    /**
     * Passes events on, until none is left or so many were. What a reader has taken is noted after at most a hundred
     * of them; where it throws, those before are noted, and that one comes again.
     *
     * @param reader called on this thread, while no transaction is open
     * @return how many were passed on
     */
    public int passOn(int most, Consumer<OutboxEvent> reader) {
        Arguments.notNull(reader, "reader");
        int passed = 0;
        List<OutboxEvent> some = waiting(Math.min(most, AT_ONCE));
        while (!some.isEmpty()) {
            List<OutboxEvent> taken = new ArrayList<>();
            try {
                for (OutboxEvent event : some) {
                    reader.accept(event);
                    taken.add(event);
                }
            } finally {
                at.store().trail().passed(taken, at.settings().clock.instant());
            }
            passed += taken.size();
            some = passed < most ? waiting(Math.min(most - passed, AT_ONCE)) : List.of();
        }
        return passed;
    }
}
