// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.Store;
import io.vacancy.spi.TransactionParticipant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Where calls work: in transactions of Vacancy's own, or in the one that the calling thread is in. What was done there
 * is told when that transaction says that it was committed.
 */
public final class Workplaces {

    private static final Logger LOG = LoggerFactory.getLogger(Workplaces.class);

    private final Workplace own;
    private final TransactionParticipant participant;
    private final boolean joins;
    private final Map<CallerTransaction, Workplace> joined = new ConcurrentHashMap<>();

    public Workplaces(Workplace own, TransactionParticipant participant) {
        this(own, participant, true);
    }

    private Workplaces(Workplace own, TransactionParticipant participant, boolean joins) {
        this.own = own;
        this.participant = participant;
        this.joins = joins;
    }

    /** Always the same one; of what is done there the participant hears nevertheless. */
    public Workplaces only(Workplace place) {
        return new Workplaces(place, participant, false);
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

    /** Has the application write what it keeps back, where calls are part of its transaction. */
    void beforeRequest() {
        if (joins) {
            participant.beforeRequest();
        }
    }

    /**
     * Has the application look at what it remembers. Whatever fails here, the rules that may have to be read anew included, takes
     * nothing of the outcome back, which may be committed.
     */
    Outcome afterRequest(Outcome outcome, Supplier<ResolvedRules> rules) {
        try {
            participant.afterRequest(outcome, rules.get());
            return outcome;
        } catch (RuntimeException | Error failed) {
            LOG.warn(
                    "{}; what the application remembers of rows was not looked at",
                    outcome.state().word(),
                    failed);
            return outcome instanceof Outcome.Done done
                    ? done.warning(List.of("Done, but what the application remembers of rows may be outdated: "
                            + (failed.getMessage() == null ? failed.toString() : failed.getMessage())))
                    : outcome;
        }
    }

    /** @throws MisuseException if the calling thread is in a transaction in which nothing is written */
    void wantsWritable() {
        CallerTransaction transaction = joined();
        if (transaction != null && transaction.readOnly()) {
            throw new MisuseException(
                    "The transaction that this thread is in can only be read, so nothing is carried out in it.",
                    "Begin one that may write, or say separately() to use a transaction of Vacancy's own.");
        }
    }

    Workplace current() {
        CallerTransaction transaction = joined();
        return transaction == null ? own : joined.computeIfAbsent(transaction, this::join);
    }

    private @Nullable CallerTransaction joined() {
        return joins ? participant.current() : null;
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
