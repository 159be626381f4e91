package io.vacancy.program;

import java.util.List;

/** A selection whose names and values have been read against the schema. */
public sealed interface Target {

    /**
     * Rows by key.
     *
     * @param keys distinct keys, each with one value per column of the table's identity, in its order
     */
    record Keys(List<List<Object>> keys) implements Target {
        public Keys {
            keys = List.copyOf(keys);
        }
    }
}
