// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;

/** Finds MariaDB. */
public final class MariadbDialectProvider implements DialectProvider {

    @Override
    public String engine() {
        return "MariaDB";
    }

    @Override
    public Dialect dialect() {
        return new MariadbDialect();
    }
}
