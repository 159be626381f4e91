// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;
import java.sql.DatabaseMetaData;
import java.sql.SQLException;

/** Finds HSQLDB. */
public final class HsqldbDialectProvider implements DialectProvider {

    @Override
    public String engine() {
        return "HSQLDB";
    }

    @Override
    public boolean serves(DatabaseMetaData metadata) throws SQLException {
        return metadata.getDatabaseProductName().equals("HSQL Database Engine");
    }

    @Override
    public Dialect dialect() {
        return new HsqldbDialect();
    }
}
