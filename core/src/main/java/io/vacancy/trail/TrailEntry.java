package io.vacancy.trail;

import java.time.Instant;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One thing that somebody did, or that was refused. Plain immutable data, without any value of a personal column.
 *
 * @param id a UUID of version 7 (RFC 9562)
 * @param at when, by the clock of the machine that did it
 * @param by who did it
 * @param onBehalfOf for whom, or null where nobody else was named
 * @param origin from where, as the application says: any names and values
 * @param because why, or null where nobody said
 * @param asked how it was asked and answered; null for a hold
 * @param table the selected table, or that of a hold; null for a hold on a receipt
 * @param selected by what its rows were selected, in words
 * @param deletion the name of the rule book's deletion that was run, or null
 * @param traces what was done to which rows; of what did not come about, the rows that were selected where they are
 *     known
 * @param receipts the receipts whose images came back, went for good or were held
 * @param receipt of what was done, or null
 * @param part which part of it, from 1; 0 where there is none
 * @param reason what stood in the way, or null
 */
public record TrailEntry(
        String id,
        Instant at,
        Kind kind,
        Ending ending,
        String by,
        @Nullable String onBehalfOf,
        Map<String, String> origin,
        @Nullable String because,
        @Nullable Asked asked,
        @Nullable String table,
        String selected,
        @Nullable String deletion,
        List<Trace> traces,
        List<String> receipts,
        @Nullable String receipt,
        int part,
        @Nullable String reason) {

    public TrailEntry {
        origin = Collections.unmodifiableMap(new LinkedHashMap<>(origin));
        traces = List.copyOf(traces);
        receipts = List.copyOf(receipts);
    }

    /** What kind of thing it was. */
    public enum Kind {
        ERASE("erase"),
        SOFT_DELETE("soft-delete"),
        RESTORE("restore"),
        REPLACE("replace"),
        PURGE("purge"),
        /** Rows stayed and lost a link. */
        UNLINK("unlink"),
        HOLD("hold"),
        RELEASE("release");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    /** How it ended. */
    public enum Ending {
        DONE("done"),
        BLOCKED("blocked"),
        REFUSED("refused"),
        DECLINED("declined");

        private final String word;

        Ending(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }

        /** The ending of an outcome with this written form, or null where the trail keeps none of it. */
        public static @Nullable Ending of(String state) {
            return Arrays.stream(values())
                    .filter(ending -> ending.word.equals(state))
                    .findFirst()
                    .orElse(null);
        }
    }

    /** How many rows of the selected table. */
    public long rows() {
        return traces.isEmpty() ? 0 : traces.get(0).rows();
    }
}
