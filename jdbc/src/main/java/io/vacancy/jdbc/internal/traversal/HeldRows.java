// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.archive.Hold;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import java.util.List;

/** Rows that a hold is on. */
public final class HeldRows {

    private HeldRows() {}

    /** That a hold is on the row under an alias, for a hold on its table or on a row of it. */
    public static Sql which(Hold hold, Table table, Dialect dialect, String alias) {
        Sql which = Sql.of("1 = 1");
        List<String> key = table.identity().columns();
        for (int i = 0; i < hold.key().size(); i++) {
            Column column = table.column(key.get(i));
            which.add(" AND " + alias + "." + dialect.syntax().quote(column.name()) + " = ")
                    .bind(column.read(hold.key().get(i), table.name()), column.type());
        }
        return which;
    }

    /** Why such a row stays. */
    public static String reason(Hold hold) {
        return "held by " + hold.by() + ": " + hold.because();
    }
}
