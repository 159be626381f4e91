// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.ForeignKeys;

/** MariaDB: how an engine checks foreign keys. */
final class MariadbForeignKeys implements ForeignKeys {

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.UNCHECKED;
    }

    @Override
    public String unchecked(String statement) {
        String setting = "SET STATEMENT ";
        return statement.startsWith(setting)
                ? setting + "foreign_key_checks=0, " + statement.substring(setting.length())
                : setting + "foreign_key_checks=0 FOR " + statement;
    }
}
