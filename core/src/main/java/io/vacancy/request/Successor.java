package io.vacancy.request;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The row that takes the place of one that ends.
 *
 * @param values what differs from the row that ends, by column; everything else is taken over
 * @param from when the one ends and the other begins, a date or time; null for now
 */
public record Successor(
        Map<String, @Nullable Object> values, @Nullable Object from) {

    public Successor {
        values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
    }
}
