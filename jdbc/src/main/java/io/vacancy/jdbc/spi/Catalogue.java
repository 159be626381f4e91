// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;

/** How an engine tells of its tables. The defaults are standard SQL. */
public interface Catalogue {

    /** A reader of this engine's catalogue, for one reading. */
    SchemaReader reader();

    /**
     * A query for one text that is another whenever foreign keys, their actions or triggers are others: all
     * that could make rows go unseen. A column that was altered makes a statement fail, and nothing is done.
     * It has to be fast, since it runs before every deletion.
     */
    String digest();

    /** The type of the engine's own row id. */
    default ColumnType rowIdType() {
        return ColumnType.of(ValueKind.INTEGER, "row id");
    }
}
