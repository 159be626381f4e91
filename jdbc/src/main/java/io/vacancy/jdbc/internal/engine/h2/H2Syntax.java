// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Syntax;

/** H2: how it writes what it cannot do as the standard says. */
final class H2Syntax implements Syntax {

    /**
     * Ordered by the bare name of its row, H2 2.5.252 finds none of the rows that it looks for in the index of another column;
     * ordered by a value that is worked out of it, all.
     */
    @Override
    public String ordering(String alias, KeyColumn column) {
        String name = column(alias, column);
        return column.rowId() ? "CAST(" + name + " AS BIGINT)" : name;
    }

    @Override
    public boolean insertsInBatches() {
        return true;
    }
}
