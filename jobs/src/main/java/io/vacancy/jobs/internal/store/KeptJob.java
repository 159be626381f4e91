// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import io.vacancy.archive.ReceiptId;
import io.vacancy.jobs.order.JobSettings;
import io.vacancy.jobs.watch.JobState;
import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A job as the database keeps it.
 *
 * @param request the document of the request, or the word of an upkeep
 * @param confirmed how it was confirmed, in words for receipts and audit history
 * @param scopes under which it was ordered, in the form in which they are compared
 * @param rulesDigest of the rules and tables that it was ordered under
 */
public record KeptJob(
        String name,
        @Nullable String requestId,
        @Nullable String requestDigest,
        String title,
        @Nullable String table,
        String request,
        String confirmed,
        String actor,
        Account account,
        String scopes,
        String rulesDigest,
        JobSettings settings,
        JobState state,
        @Nullable Wanted wanted,
        Instant madeAt,
        @Nullable Instant dueAt,
        int run) {

    /** For whom and from where it was ordered. */
    public record Account(@Nullable String onBehalfOf, Map<String, String> origin) {
        public Account {
            origin = Map.copyOf(origin);
        }
    }

    /** What somebody has told a job that a node may be working on. */
    public enum Wanted {
        PAUSE,
        CANCEL
    }

    /**
     * One time that it is done.
     *
     * @param selected how many rows it selects, or null while that is not known
     */
    public record Run(
            int run,
            JobState state,
            ReceiptId receipt,
            @Nullable Instant startedAt,
            @Nullable Instant endedAt,
            @Nullable Long selected,
            @Nullable Long expected,
            @Nullable String reason) {}
}
