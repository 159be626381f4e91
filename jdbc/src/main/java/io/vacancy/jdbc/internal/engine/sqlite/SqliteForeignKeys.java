// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.ForeignKeys;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;

/** SQLite: how an engine checks foreign keys. */
final class SqliteForeignKeys implements ForeignKeys {

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.DEFERRED;
    }

    @Override
    public boolean checksAfterStatement(Relation relation) {
        return relation.onDelete() != OnDelete.RESTRICT;
    }

    @Override
    public String deferChecks() {
        return "PRAGMA defer_foreign_keys = ON";
    }
}
