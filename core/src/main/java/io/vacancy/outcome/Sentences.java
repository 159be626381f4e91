package io.vacancy.outcome;

import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Visibility;
import io.vacancy.preview.Wording;
import io.vacancy.request.Mode;
import java.util.stream.Collectors;

/** The sentences in which outcomes tell what happened. */
final class Sentences {

    private Sentences() {}

    static String done(Receipt receipt) {
        if (!receipt.effects().isEmpty() && !receipt.effects().get(0).goes()) {
            return "Changed " + Wording.rows(receipt.rows()) + " of " + receipt.table() + "; receipt " + receipt.id()
                    + ".";
        }
        Action action =
                switch (receipt.mode()) {
                    case ERASE -> Action.DELETE;
                    case SOFT_DELETE -> Action.SOFT_DELETE;
                    case RESTORE -> Action.RESTORE;
                    case REPLACE -> Action.REPLACE;
                    case PURGE -> Action.PURGE;
                };
        long along = receipt.totals().getOrDefault(action, 0L) - receipt.rows();
        long erased = action == Action.DELETE ? 0 : receipt.totals().getOrDefault(Action.DELETE, 0L);
        String did =
                switch (receipt.mode()) {
                    case ERASE -> "Erased ";
                    case SOFT_DELETE -> "Marked as deleted ";
                    case RESTORE -> "Brought back ";
                    case REPLACE -> "Replaced ";
                    case PURGE -> "Removed for good ";
                };
        if (receipt.mode() == Mode.PURGE) {
            return did + Wording.images(receipt.totals().getOrDefault(Action.PURGE, 0L)) + "; receipt " + receipt.id()
                    + ".";
        }
        return did + Wording.rows(receipt.rows()) + " of " + receipt.table()
                + (along > 0 ? " and " + Wording.rows(along) + " with it" : "")
                + (erased > 0 ? ", erased " + Wording.rows(erased) : "")
                + (receipt.spared().rows() > 0
                        ? ", spared " + Wording.rows(receipt.spared().rows())
                        : "")
                + "; receipt " + receipt.id() + ".";
    }

    static String nothing(Preview preview) {
        String asked = preview.missing().sample().stream()
                .map(row -> row.values().entrySet().stream()
                        .map(part -> part.getKey() + " " + part.getValue())
                        .collect(Collectors.joining(", ")))
                .collect(Collectors.joining("; "));
        long more = preview.missing().rows() - preview.missing().sample().size();
        String selected = asked.isEmpty() ? Wording.selected(preview.request()) : "with " + asked;
        Visibility seen = preview.findings().visibility();
        if (seen != null && seen.leftOut() > 0) {
            boolean back = preview.mode() == Mode.RESTORE;
            return Wording.rows(seen.leftOut()) + " of " + preview.table() + (seen.leftOut() == 1 ? " is " : " are ")
                    + (back ? "not marked as deleted" : "marked as deleted already") + "; nothing was changed.";
        }
        return "Table " + preview.table() + " has no row" + (selected.isEmpty() ? "" : " " + selected)
                + (more > 0 ? " and " + Wording.grouped(more) + " keys more" : "") + "; nothing was changed.";
    }

    static String blocked(Preview preview) {
        if (preview.blockers().isEmpty()) {
            return "Everything selected is spared: "
                    + preview.sparedBy().stream()
                            .map(by -> Wording.rows(by.rows())
                                    + (by.relation() == null ? " since " : " through " + by.relation() + ": ")
                                    + by.reason())
                            .collect(Collectors.joining("; "))
                    + ". Nothing was changed.";
        }
        return preview.blockers().stream().map(Sentences::blocker).collect(Collectors.joining("; "))
                + ". Nothing was changed.";
    }

    private static String blocker(Blocker blocker) {
        return Wording.rows(blocker.rows()) + " of " + blocker.table()
                + (blocker.rows() == 1 ? " stands" : " stand") + " in the way "
                + (blocker.relation() == null ? "since " : "") + blocker.told();
    }
}
