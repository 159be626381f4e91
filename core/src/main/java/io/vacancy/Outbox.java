package io.vacancy;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.spi.Store;
import io.vacancy.trail.OutboxEvent;
import java.time.Clock;
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

    private final Store store;
    private final Clock clock;

    Outbox(Store store, Clock clock) {
        this.store = store;
        this.clock = clock;
    }

    /**
     * Events that were not passed on yet, oldest first; none of them is noted as passed on.
     *
     * @param most how many at most
     */
    public List<OutboxEvent> waiting(int most) {
        if (!store.archive().ready()) {
            throw new NotSetUpException();
        }
        if (most < 1) {
            throw new MisuseException(most + " events are none.", "Ask for one or more.");
        }
        return store.trail().waiting(most);
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
                store.trail().passed(taken, clock.instant());
            }
            passed += taken.size();
            some = passed < most ? waiting(Math.min(most - passed, AT_ONCE)) : List.of();
        }
        return passed;
    }
}
