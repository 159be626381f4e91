package io.vacancy.outcome;

import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Portion;
import io.vacancy.preview.Visibility;
import io.vacancy.request.Mode;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What was done. Plain immutable data.
 *
 * @param id the identifier, a UUID of version 7 (RFC 9562), so that receipts sort by time
 * @param by who did it
 * @param at when, by the clock of this machine
 * @param because why, or null where nobody said
 * @param unasked why nobody was asked, or null where somebody was
 * @param named the name of the rule book's deletion that was run, or null
 * @param rules the rules that the request put in the place of the rule book's, as they are written, by relation
 * @param spared the selected rows that were left out because their going is blocked
 * @param records the removed rows of the selected table as they stood last, where they are few; else empty
 * @param totals distinct rows by action
 * @param kept whether images of the rows were kept, so that they can be brought back
 * @param visibility what is seen and what is stored of the selected table, before and after, where it has a marker;
 *     else null
 */
public record Receipt(
        String id,
        TableName table,
        Mode mode,
        String by,
        Instant at,
        @Nullable String because,
        @Nullable String unasked,
        @Nullable String named,
        Map<String, String> rules,
        Portion spared,
        List<Row> records,
        List<Effect> effects,
        Map<Action, Long> totals,
        List<String> warnings,
        boolean kept,
        @Nullable Visibility visibility) {

    public Receipt {
        rules = Collections.unmodifiableMap(new LinkedHashMap<>(rules));
        records = List.copyOf(records);
        effects = List.copyOf(effects);
        totals = Map.copyOf(totals);
        warnings = List.copyOf(warnings);
    }

    /** How many of the selected rows went. */
    public long rows() {
        return effects.isEmpty() ? 0 : effects.get(0).rows();
    }

    /**
     * The one selected row that went.
     *
     * @throws MisuseException if several went
     */
    public Row record() {
        if (records.size() != 1) {
            throw new MisuseException(rows() + " rows of " + table + " went, not one.", "Read records() instead.");
        }
        return records.get(0);
    }
}
