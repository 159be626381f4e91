// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.Collection;

/** How an engine tells of its tables. The defaults are standard SQL. */
public interface Catalogue {

    /** A reader of this engine's catalogue, for one reading. */
    SchemaReader reader();

    /**
     * A query of schema, table and a text, some of whose rows are others whenever something of the table is: its columns,
     * their types, its keys, the foreign keys from it and to it, its triggers; all that could make rows go unseen, or be
     * missing in an image. A table may have several rows, and rows without a table tell of all of them. It has to be fast,
     * since it runs before every deletion.
     *
     * @param tables names without schema; of every table if empty
     */
    Sql definitions(Collection<String> tables);

    /**
     * A query of one number that is not 0 if policies hide rows of a table from the user of this session; only for tables
     * that have any.
     *
     * @param table as it is written in a statement
     */
    default Sql policesSession(String table) {
        throw new UnsupportedOperationException("this engine has no policies");
    }

    /** Names as a list of values to be bound, with what stands before it; nothing where there are none. */
    static Sql among(String before, Collection<String> names) {
        Sql sql = new Sql();
        if (names.isEmpty()) {
            return sql;
        }
        sql.add(before + " IN (");
        int place = 0;
        for (String name : names) {
            sql.add(place++ == 0 ? "" : ", ").bind(name, OwnTables.TEXT);
        }
        return sql.add(")");
    }

    /** The type of the engine's own row id. */
    default ColumnType rowIdType() {
        return ColumnType.of(ValueKind.INTEGER, "row id");
    }
}
