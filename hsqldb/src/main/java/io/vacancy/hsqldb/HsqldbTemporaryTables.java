// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.ColumnType;
import java.util.List;

/** Tables of the session, the only ones that are made without a commit. */
record HsqldbTemporaryTables(Syntax syntax) implements TemporaryTables {

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return "DECLARE LOCAL TEMPORARY TABLE " + keyTable + " (" + String.join(", ", columnDefinitions)
                + (identity.isEmpty() ? "" : ", PRIMARY KEY (" + String.join(", ", identity) + ")")
                + ") ON COMMIT PRESERVE ROWS";
    }

    @Override
    public String dropKeyTable(String keyTable) {
        return "DROP TABLE session." + keyTable + " IF EXISTS";
    }

    @Override
    public String keyType(ColumnType type) {
        return type.declared();
    }
}
