// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.ForeignKeys;
import io.vacancy.schema.Relation;

/** PostgreSQL: how an engine checks foreign keys. */
final class PostgresqlForeignKeys implements ForeignKeys {

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.TOGETHER;
    }

    @Override
    public boolean checksAfterStatement(Relation relation) {
        return true;
    }
}
