// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import java.io.PrintWriter;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.IntConsumer;
import java.util.logging.Logger;
import javax.sql.DataSource;

/** A data source that counts the statements which are executed over its connections. */
public final class CountingSource implements DataSource {

    private final DataSource source;
    private final IntConsumer before;
    private final AtomicInteger executed = new AtomicInteger();
    private final AtomicInteger steps = new AtomicInteger();

    CountingSource(DataSource source) {
        this(source, step -> {});
    }

    /** @param before told, before each statement and each commit, how many there were with it */
    public CountingSource(DataSource source, IntConsumer before) {
        this.source = source;
        this.before = before;
    }

    /** How many statements were executed since this was last asked. */
    int statements() {
        return executed.getAndSet(0);
    }

    @Override
    public Connection getConnection() throws SQLException {
        return counting(Connection.class, source.getConnection());
    }

    private <T> T counting(Class<T> type, T counted) {
        return type.cast(
                Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (proxy, method, arguments) -> {
                    boolean statement = method.getName().startsWith("execute");
                    if (statement) {
                        executed.incrementAndGet();
                    }
                    if (statement || method.getName().equals("commit")) {
                        before.accept(steps.incrementAndGet());
                    }
                    try {
                        Object result = method.invoke(counted, arguments);
                        if (result instanceof PreparedStatement prepared) {
                            return counting(PreparedStatement.class, prepared);
                        }
                        return result instanceof Statement plain ? counting(Statement.class, plain) : result;
                    } catch (InvocationTargetException failed) {
                        throw failed.getCause();
                    }
                }));
    }

    @Override
    public Connection getConnection(String username, String password) throws SQLException {
        return counting(Connection.class, source.getConnection(username, password));
    }

    @Override
    public PrintWriter getLogWriter() throws SQLException {
        return source.getLogWriter();
    }

    @Override
    public void setLogWriter(PrintWriter out) throws SQLException {
        source.setLogWriter(out);
    }

    @Override
    public void setLoginTimeout(int seconds) throws SQLException {
        source.setLoginTimeout(seconds);
    }

    @Override
    public int getLoginTimeout() throws SQLException {
        return source.getLoginTimeout();
    }

    @Override
    public Logger getParentLogger() {
        return Logger.getLogger("counting");
    }

    @Override
    public <T> T unwrap(Class<T> type) throws SQLException {
        return source.unwrap(type);
    }

    @Override
    public boolean isWrapperFor(Class<?> type) throws SQLException {
        return source.isWrapperFor(type);
    }
}
