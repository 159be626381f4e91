// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jdbc.spi.OwnTableAccess;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * The same tables, in the transaction that the calling thread is in where Vacancy joins it: a job that is ordered there is not
 * ordered if that one is rolled back.
 *
 * @param own in transactions of their own
 * @param current in whatever transaction the calling thread is in
 */
public record JoinedOwnTables(OwnTableAccess own, Supplier<OwnTableAccess> current) implements OwnTableAccess {

    @Override
    public String name(String table) {
        return own.name(table);
    }

    @Override
    public Dialect dialect() {
        return own.dialect();
    }

    @Override
    public void wantsReady() {
        own.wantsReady();
    }

    @Override
    public <T> T reading(Work<T> work) {
        return current.get().reading(work);
    }

    @Override
    public <T> T writing(Work<T> work) {
        return current.get().writing(work);
    }

    @Override
    public @Nullable Fault fault(VacancyException failed) {
        return own.fault(failed);
    }
}
