// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;

/** Finds SQLite. */
public final class SqliteDialectProvider implements DialectProvider {

    @Override
    public String engine() {
        return "SQLite";
    }

    @Override
    public Dialect dialect() {
        return new SqliteDialect();
    }
}
