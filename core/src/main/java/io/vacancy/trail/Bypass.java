// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What was done to a row by a statement that no receipt covers, as a trigger recorded it; see {@link
 * io.vacancy.Trail#bypassTriggers}.
 *
 * @param table whose row
 * @param key of the row, as the audit history writes keys; null where it is personal, there is none, or all rows are meant
 * @param action {@code delete}; {@code mark} where the columns of a marker were changed; {@code truncate}
 * @param at when, by the clock of the database
 * @param user whom the database knows the session by, or null where it knows none
 */
public record Bypass(
        String table,
        @Nullable String key,
        String action,
        Instant at,
        @Nullable String user) {}
