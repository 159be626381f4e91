package io.vacancy.request;

import io.vacancy.failure.MisuseException;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is to come back: everything that went, or was marked as deleted, under one receipt, or a part of it. Rows that
 * no receipt knows come back by {@link Request#restoring()} or {@link Request#fromArchive}.
 *
 * @param receipt its identifier
 * @param table only rows of this table, with what hung on them; null for everything
 * @param keys only the rows with these keys; all rows of the table if empty
 */
public record Restore(String receipt, @Nullable String table, List<Object> keys) {

    public Restore {
        keys = List.copyOf(keys);
        if (receipt.isBlank()) {
            throw new MisuseException("No receipt is named whose rows are to come back.");
        }
    }

    /** Everything of this receipt. */
    public static Restore of(String receipt) {
        return new Restore(receipt, null, List.of());
    }

    /**
     * Only rows of a table, with what hung on them and went with them.
     *
     * @param keys {@link Key}s or values; every row of the table without any
     */
    public Restore only(String name, Object... keys) {
        return new Restore(receipt, name, List.of(keys));
    }
}
