// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.SQLException;
import java.util.List;
import java.util.ServiceLoader;

/** Finds the dialect of a connection: the one place where engines are told apart. */
public final class Dialects {

    private Dialects() {}

    private static List<DialectProvider> providers() {
        return ServiceLoader.load(DialectProvider.class, Dialects.class.getClassLoader()).stream()
                .map(ServiceLoader.Provider::get)
                .toList();
    }

    /** The names of the engines that are known, in alphabetical order. */
    public static List<String> names() {
        return providers().stream().map(DialectProvider::engine).sorted().toList();
    }

    /**
     * The dialect for the database behind this connection.
     *
     * @throws MisuseException if no provider serves it, or more than one
     */
    public static Dialect of(Connection connection) throws SQLException {
        DatabaseMetaData metadata = connection.getMetaData();
        Dialect found = null;
        for (DialectProvider provider : providers()) {
            if (provider.serves(metadata)) {
                if (found != null) {
                    throw new MisuseException(
                            "Two dialects serve the database " + metadata.getDatabaseProductName() + ": " + found.name()
                                    + " and " + provider.engine() + ".",
                            "Leave one of the modules that bring them away.");
                }
                found = provider.dialect();
            }
        }
        if (found == null) {
            throw new MisuseException(
                    "Vacancy does not support the database " + metadata.getDatabaseProductName() + ".",
                    "It supports " + String.join(", ", names()) + ".");
        }
        return found;
    }
}
