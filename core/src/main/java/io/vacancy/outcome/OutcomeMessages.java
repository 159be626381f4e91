// SPDX-License-Identifier: Apache-2.0
package io.vacancy.outcome;

import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;

/** The sentences in which outcomes tell what happened. */
final class OutcomeMessages {

    private OutcomeMessages() {}

    static String done(Receipt receipt) {
        Action action =
                switch (receipt.operation()) {
                    case ERASE, TRUNCATE -> Action.DELETE;
                    case MERGE -> receipt.totals().containsKey(Action.SOFT_DELETE) ? Action.SOFT_DELETE : Action.DELETE;
                    case UNLINK_ORPHANS -> Action.SET_NULL;
                    case SOFT_DELETE -> Action.SOFT_DELETE;
                    case RESTORE -> Action.RESTORE;
                    case REPLACE -> Action.REPLACE;
                    case BLANK, FORGET -> Action.BLANK;
                    case PURGE -> Action.PURGE;
                    case DROP -> Action.DROP;
                };
        Map<TableName, Long> selected = new LinkedHashMap<>();
        receipt.selectedEffects()
                .filter(effect ->
                        effect.action() == action || receipt.selected().size() == 1)
                .forEach(effect -> selected.merge(effect.table(), effect.rows(), Long::sum));
        long along = receipt.totals().getOrDefault(action, 0L)
                - selected.values().stream().mapToLong(Long::longValue).sum();
        long marked = action == Action.DELETE ? receipt.totals().getOrDefault(Action.SOFT_DELETE, 0L) : 0;
        long erased = action == Action.DELETE ? 0 : receipt.totals().getOrDefault(Action.DELETE, 0L);
        long kept = receipt.totals().getOrDefault(Action.KEEP, 0L);
        String did =
                switch (receipt.operation()) {
                    case ERASE, TRUNCATE -> "Erased ";
                    case UNLINK_ORPHANS -> "Changed ";
                    case SOFT_DELETE -> "Marked as deleted ";
                    case RESTORE -> "Restored ";
                    case REPLACE -> "Replaced ";
                    case MERGE -> "Merged ";
                    case BLANK -> "Blanked ";
                    case FORGET -> "Forgot ";
                    case PURGE -> "Purged ";
                    case DROP -> "Dropped ";
                };
        if (receipt.operation() == OperationKind.DROP) {
            return did + dropped(receipt) + "; receipt " + receipt.id() + ".";
        }
        if (receipt.operation() == OperationKind.PURGE) {
            return did + CountText.archivedRows(receipt.totals().getOrDefault(Action.PURGE, 0L)) + "; receipt "
                    + receipt.id() + ".";
        }
        String rows = selected.entrySet().stream()
                .map(of -> CountText.rows(of.getValue()) + " of " + of.getKey())
                .collect(Collectors.joining(" and "));
        return did + (rows.isEmpty() ? "0 rows of " + receipt.table() : rows)
                + (along > 0 ? " and " + CountText.rows(along) + " with it" : "")
                + (erased > 0 ? ", erased " + CountText.rows(erased) : "")
                + (marked > 0 ? ", marked as deleted " + CountText.rows(marked) : "")
                + (kept > 0 ? ", kept " + CountText.rows(kept) : "")
                + (receipt.skipped().rows() > 0
                        ? ", skipped " + CountText.rows(receipt.skipped().rows())
                        : "")
                + "; receipt " + receipt.id() + ".";
    }

    /** What of the database itself went: "table fee with its 210 rows". */
    static String dropped(Receipt receipt) {
        if (receipt.effects().isEmpty()) {
            return "nothing as far as is known: it was begun";
        }
        Effect effect = receipt.effects().get(0);
        String rows = CountText.rows(effect.rows());
        return effect.becomes() == null
                ? "table " + effect.table() + " with its " + rows
                : "column " + effect.becomes() + " of " + effect.table() + ", which had a value in " + rows;
    }

    static String nothing(Preview preview) {
        if (!preview.request().others().isEmpty()) {
            String more = preview.request().others().stream()
                    .map(other -> " or " + other.table())
                    .collect(Collectors.joining());
            return "Nothing of " + preview.table() + more + " is selected; nothing was changed.";
        }
        String asked = preview.missing().sample().stream()
                .map(row -> row.values().entrySet().stream()
                        .map(part -> part.getKey() + " " + part.getValue())
                        .collect(Collectors.joining(", ")))
                .collect(Collectors.joining("; "));
        long more = preview.missing().rows() - preview.missing().sample().size();
        String selected = asked.isEmpty() ? preview.selected() : "with " + asked;
        ActiveCounts seen = preview.impact().activeCounts();
        if (seen != null && seen.leftOut() > 0) {
            boolean back = preview.operation() == OperationKind.RESTORE;
            return CountText.rows(seen.leftOut()) + " of " + preview.table() + (seen.leftOut() == 1 ? " is " : " are ")
                    + (back ? "not marked as deleted" : "marked as deleted already") + "; nothing was changed.";
        }
        String which = (selected.isEmpty() ? "" : " " + selected)
                + (more > 0 ? " and " + CountText.grouped(more) + " keys more" : "");
        return switch (preview.operation()) {
            case RESTORE ->
                "No row of " + preview.table() + which
                        + " is marked as deleted or archived, so there is none to restore; nothing was changed.";
            case PURGE -> "No row of " + preview.table() + which + " is archived; nothing was changed.";
            default -> "Table " + preview.table() + " has no row" + which + "; nothing was changed.";
        };
    }

    static String blocked(Preview preview) {
        if (preview.blockers().isEmpty()) {
            return "Everything selected is skipped: "
                    + preview.skippedBy().stream()
                            .map(by -> CountText.rows(by.rows())
                                    + (by.relation() == null ? " since " : " through " + by.relation() + ": ")
                                    + by.reason())
                            .collect(Collectors.joining("; "))
                    + ". Nothing was changed.";
        }
        return preview.blockers().stream().map(OutcomeMessages::blocker).collect(Collectors.joining("; "))
                + ". Nothing was changed.";
    }

    private static String blocker(Blocker blocker) {
        if (blocker.rows() == 0) {
            return "Blocked by " + blocker.message();
        }
        return "Blocked by " + CountText.rows(blocker.rows()) + " of " + blocker.table()
                + (blocker.relation() == null ? ", since " : " ") + blocker.message();
    }
}
