package io.vacancy.request;

import io.vacancy.archive.Saved;
import io.vacancy.failure.MisuseException;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Says that a request is about images of rows that went, instead of rows that are there.
 *
 * @param receipts of these receipts; of any if empty
 * @param dueAt only those whose time is over by then, or null for all
 * @param file a copy outside the database that they come from, or null; nothing else narrows them then
 * @param besides whether they come back beside rows that are marked as deleted, which are those that are selected
 */
public record Images(
        List<String> receipts,
        @Nullable Instant dueAt,
        @Nullable Saved saved,
        boolean besides) {

    public Images {
        receipts = List.copyOf(receipts);
        if (receipts.stream().anyMatch(String::isBlank)) {
            throw new MisuseException("A receipt without an identifier is named.");
        }
    }

    /** Those of every receipt. */
    public static Images any() {
        return new Images(List.of(), null, null, false);
    }

    /** Those of these receipts. */
    public static Images of(List<String> receipts) {
        return new Images(receipts, null, null, false);
    }

    /** Those that may go for good. */
    public static Images due(Instant at) {
        return new Images(List.of(), at, null, false);
    }

    /** Those of a copy outside the database. */
    public static Images of(Saved copy) {
        return new Images(List.of(), null, copy, false);
    }

    /** Those of a receipt, to come back beside the rows that were marked under it. */
    public static Images besides(String receipt) {
        return new Images(List.of(receipt), null, null, true);
    }
}
