// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.Store;
import io.vacancy.spi.TransactionParticipant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Where calls work: in transactions of Vacancy's own, or in the one that the calling thread is in. What was done there
 * is told when that transaction says that it was committed.
 */
public final class Workplaces {

    private final Workplace own;
    private final TransactionParticipant participant;
    private final Map<CallerTransaction, Workplace> joined = new ConcurrentHashMap<>();

    public Workplaces(Workplace own, TransactionParticipant participant) {
        this.own = own;
        this.participant = participant;
    }

    /** Always the same one. */
    public static Workplaces only(Workplace place) {
        return new Workplaces(place, () -> null);
    }

    /** One on a connection that the caller handed over. */
    public Workplace on(Object connection) {
        Store store = own.store();
        return new Workplace(store.within(connection), new OutcomePublisher.Callers(store));
    }

    Workplace current() {
        CallerTransaction transaction = participant.current();
        return transaction == null ? own : joined.computeIfAbsent(transaction, this::join);
    }

    private Workplace join(CallerTransaction transaction) {
        Workplace place = on(transaction.connection());
        transaction.whenCompleted(committed -> {
            joined.remove(transaction);
            place.publisher().settled(committed);
        });
        return place;
    }
}
