// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.archive.ReceiptId;
import io.vacancy.preview.Action;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What was done when a person was forgotten, and what is left of it at a time. It holds no value of the person's rows but the
 * key, and not that where it is personal.
 *
 * @param receipt under which it was done
 * @param at when
 * @param by who did it
 * @param onBehalfOf for whom, or null where nobody else was named
 * @param approvedBy who else agreed, or null where nobody had to
 * @param because why, or null where nobody said
 * @param table the table of the person's own row
 * @param person the key of that row, as the audit history has it
 * @param lines what was done, table by table
 * @param copies how many archived copies of those rows there are still
 * @param copiesUntil when the last of them expires; null where there is none, or nothing says so
 * @param later what was done to the copies since, oldest first
 * @param issued as of when all this is said
 */
public record Certificate(
        ReceiptId receipt,
        Instant at,
        String by,
        @Nullable String onBehalfOf,
        @Nullable String approvedBy,
        @Nullable String because,
        String table,
        List<String> person,
        List<Line> lines,
        long copies,
        @Nullable Instant copiesUntil,
        List<Later> later,
        Instant issued) {

    public Certificate {
        person = List.copyOf(person);
        lines = List.copyOf(lines);
        later = List.copyOf(later);
    }

    /**
     * What became of some rows of one table.
     *
     * @param relation through which they belong to the person; null for the person's own row
     * @param becomes what columns hold now, or why the rows are kept; null of erased rows
     */
    public record Line(
            String table,
            Action action,
            @Nullable String relation,
            @Nullable String becomes,
            long rows) {}

    /**
     * What was done to the copies later.
     *
     * @param kind they were restored, or purged, or the key was destroyed by which copies are encrypted
     */
    public record Later(TrailEntry.Kind kind, Instant at, String by) {}

    /** Whether something of it was restored, so that this no longer tells how things are. */
    public boolean restored() {
        return later.stream().anyMatch(each -> each.kind() == TrailEntry.Kind.RESTORE);
    }

    /** Whether nothing of what was erased or blanked can come back from the archive. */
    public boolean withoutReturn() {
        return copies == 0 && !restored();
    }
}
