package io.vacancy.schema;

import java.util.List;

/**
 * A primary or unique key.
 *
 * @param columns the names of its columns, in key order
 */
public record UniqueKey(String name, List<String> columns) {

    public UniqueKey {
        columns = List.copyOf(columns);
    }
}
