// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import javax.sql.DataSource;

/**
 * Counts what is asked of connections: statements, and what begins and ends transactions. What a driver sends along with
 * the next statement is counted as well, so it is a bound on the ways to the server.
 */
final class RoundTrips {

    private static final Set<String> ASKED = Set.of(
            "prepareStatement",
            "createStatement",
            "commit",
            "rollback",
            "setSavepoint",
            "releaseSavepoint",
            "setTransactionIsolation");

    private final AtomicLong asked = new AtomicLong();

    /** The same source, counted. */
    DataSource counted(DataSource source) {
        return proxy(DataSource.class, source);
    }

    Connection counted(Connection connection) {
        return proxy(Connection.class, connection);
    }

    /** How many there were since this was last asked. */
    long taken() {
        return asked.getAndSet(0);
    }

    private <T> T proxy(Class<T> type, T target) {
        return type.cast(Proxy.newProxyInstance(
                type.getClassLoader(),
                new Class<?>[] {type},
                (self, method, arguments) -> called(target, method, arguments)));
    }

    private Object called(Object target, Method method, Object[] arguments) throws Throwable {
        if (ASKED.contains(method.getName())) {
            asked.incrementAndGet();
        }
        try {
            Object result = method.invoke(target, arguments);
            return result instanceof Connection connection ? counted(connection) : result;
        } catch (InvocationTargetException failed) {
            throw failed.getCause();
        }
    }
}
