// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.failure.MisuseException;
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

    /** In transactions of Vacancy's own, whatever the calling thread is in. */
    public Workplaces separate() {
        return only(own);
    }

    /** @throws MisuseException if the calling thread is in a transaction in which nothing is written */
    void wantsWritable() {
        CallerTransaction transaction = participant.current();
        if (transaction != null && transaction.readOnly()) {
            throw new MisuseException(
                    "The transaction that this thread is in can only be read, so nothing is carried out in it.",
                    "Begin one that may write, or say separately() to use a transaction of Vacancy's own.");
        }
    }

    Workplace current() {
        CallerTransaction transaction = participant.current();
        return transaction == null ? own : joined.computeIfAbsent(transaction, this::join);
    }

    private Workplace join(CallerTransaction transaction) {
        Workplace place = on(transaction.connection());
        transaction.whenCompleted(completion -> {
            joined.remove(transaction);
            place.publisher().settled(completion);
        });
        return place;
    }
}
