// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;

/** Finds PostgreSQL. */
public final class PostgresqlDialectProvider implements DialectProvider {

    @Override
    public String engine() {
        return "PostgreSQL";
    }

    @Override
    public Dialect dialect() {
        return new PostgresqlDialect();
    }
}
