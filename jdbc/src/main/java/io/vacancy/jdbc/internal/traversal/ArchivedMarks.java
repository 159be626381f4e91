// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Impact;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What the archive has of rows that are marked and come back: under which receipt they were, and what they held. */
public interface ArchivedMarks {

    /** Where nothing is known of them, or none come back. */
    ArchivedMarks NONE = new ArchivedMarks() {};

    /** What holds for the rows t of a table that were marked under the receipt that is meant; null where no receipt is. */
    default @Nullable Sql narrowing(TableName table) {
        return null;
    }

    /** To be called once for each table, when its selected rows are known. */
    default void of(KeySet selected) {}

    /** That the child row t was marked under the receipt under which its parent p was. */
    default Sql together(Relation relation) {
        return Sql.of("1 = 0");
    }

    /** What a column of row t held before it was marked, or something else where that is not known. */
    default Sql held(Table table, String column, Sql otherwise) {
        return otherwise;
    }

    /** What was found, with what the archive has against it. */
    default Impact judged(Impact found) {
        return found;
    }

    /** To be called once the rows of these sets are back. */
    default void restored(Map<TableName, KeySet> rows) {}
}
