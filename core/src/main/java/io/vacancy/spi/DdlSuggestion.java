// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.condition.Condition;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Something that could be defined in a database. It is only ever written down, for somebody else to run. */
public sealed interface DdlSuggestion {

    /** An index over the columns of a table. */
    record Index(TableName table, List<String> columns) implements DdlSuggestion {
        public Index {
            columns = List.copyOf(columns);
        }
    }

    /** A unique index over the rows of a table that are active; not every engine has such. */
    record UniqueWhileActive(Table table, List<String> columns, Condition active) implements DdlSuggestion {
        public UniqueWhileActive {
            columns = List.copyOf(columns);
        }
    }

    /** A view of the rows of a table that are active, in the table's own schema. */
    record ActiveRows(Table table, String view, Condition active) implements DdlSuggestion {}

    /** A column that could mark rows as deleted: a time that is NULL while they are active. */
    record MarkerColumn(TableName table, @Nullable String column) implements DdlSuggestion {
        /** Its name, {@code deleted_at} unless given. */
        public String name() {
            return column == null ? "deleted_at" : column;
        }
    }
}
