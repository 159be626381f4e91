// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.Collection;
import org.jspecify.annotations.Nullable;

/** How an engine tells of its tables. The defaults are standard SQL. */
public interface Catalogue {

    /** A reader of this engine's catalogue, for one reading. */
    SchemaReader reader();

    /**
     * A query for one text that is another whenever foreign keys, the tables and columns that they are between, their
     * actions or triggers are others: all that could make rows go unseen. It has to be fast, since it runs before every
     * deletion.
     */
    String digest();

    /**
     * A query of schema, table and a text that is another whenever the table's columns, their types or its keys are others:
     * all that could be missing in an image. Null where {@link #digest} says it, too.
     *
     * @param tables names without schema; of every table if empty
     */
    default @Nullable Sql columnDigests(Collection<String> tables) {
        return null;
    }

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
