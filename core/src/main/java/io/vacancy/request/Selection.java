package io.vacancy.request;

import java.util.List;

/** Which rows of one table are meant. */
public sealed interface Selection {

    /**
     * The rows with these keys. A key given twice counts once.
     *
     * @param keys at least one
     */
    record ByKeys(List<Key> keys) implements Selection {
        public ByKeys {
            keys = List.copyOf(keys);
        }
    }
}
