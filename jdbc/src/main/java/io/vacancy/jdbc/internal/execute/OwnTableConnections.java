// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.failure.NotSetUpException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.SqlExceptionTranslator;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jdbc.spi.OwnTableAccess;
import java.sql.SQLException;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** What other modules work on their own tables by. */
public record OwnTableConnections(StoreContext context) implements OwnTableAccess {

    private static final StatementContext WORK = new StatementContext("working on Vacancy's own tables", null, null);

    @Override
    public String name(String table) {
        return dialect().syntax().table(context.cache().ownTables().tables().table(table));
    }

    @Override
    public Dialect dialect() {
        return context.dialect();
    }

    @Override
    public void wantsReady() {
        if (!context.archive().ready()) {
            throw new NotSetUpException();
        }
    }

    @Override
    public <T> T reading(Work<T> work) {
        return new OwnTableWork(context).looking(on(work));
    }

    @Override
    public <T> T writing(Work<T> work) {
        return new OwnTableWork(context).writing(on(work));
    }

    private <T> Function<Session, T> on(Work<T> work) {
        return session -> {
            try {
                return work.run(session.connection());
            } catch (SQLException failed) {
                throw SqlExceptionTranslator.of(failed, WORK, dialect());
            }
        };
    }

    @Override
    public @Nullable Fault fault(VacancyException failed) {
        for (Throwable cause = failed.getCause(); cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException driver) {
                return dialect().errors().of(driver);
            }
        }
        return null;
    }
}
