// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import java.sql.DatabaseMetaData;
import java.sql.SQLException;

/**
 * Brings the dialect of an engine. Providers are found by {@link java.util.ServiceLoader}, so that a module can add an
 * engine; it is a provider's business to tell its engine from all others.
 */
public interface DialectProvider {

    /** The engine's name, as in a list of engines. */
    String engine();

    /** Whether a connection leads to this engine. */
    default boolean serves(DatabaseMetaData metadata) throws SQLException {
        return metadata.getDatabaseProductName().equals(engine());
    }

    /** The dialect. */
    Dialect dialect();
}
