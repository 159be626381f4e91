package io.vacancy.store;

import io.vacancy.schema.TableName;
import java.util.List;

/** Something that could be defined in a database. It is only ever written down, for somebody else to run. */
public sealed interface Definition {

    /** An index over the columns of a table. */
    record Index(TableName table, List<String> columns) implements Definition {
        public Index {
            columns = List.copyOf(columns);
        }
    }
}
