package io.vacancy.outcome;

import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Wording;
import java.util.stream.Collectors;

/** The sentences in which outcomes tell what happened. */
final class Sentences {

    private Sentences() {}

    static String done(Receipt receipt) {
        if (!receipt.effects().isEmpty() && !receipt.effects().get(0).goes()) {
            return "Changed " + Wording.rows(receipt.rows()) + " of " + receipt.table() + "; receipt " + receipt.id()
                    + ".";
        }
        long gone = receipt.totals().getOrDefault(Action.DELETE, 0L);
        return "Erased " + Wording.rows(receipt.rows()) + " of " + receipt.table()
                + (gone > receipt.rows() ? " and " + Wording.rows(gone - receipt.rows()) + " with it" : "")
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
        return "Table " + preview.table() + " has no row" + (selected.isEmpty() ? "" : " " + selected)
                + (more > 0 ? " and " + Wording.grouped(more) + " keys more" : "") + "; nothing was changed.";
    }

    static String blocked(Preview preview) {
        if (preview.blockers().isEmpty()) {
            return "Everything selected is spared: "
                    + preview.sparedBy().stream()
                            .map(by -> Wording.rows(by.rows()) + " through " + by.relation() + ": " + by.reason())
                            .collect(Collectors.joining("; "))
                    + ". Nothing was changed.";
        }
        return preview.blockers().stream().map(Sentences::blocker).collect(Collectors.joining("; "))
                + ". Nothing was changed.";
    }

    private static String blocker(Blocker blocker) {
        return Wording.rows(blocker.rows()) + " of " + blocker.table()
                + (blocker.rows() == 1 ? " stands" : " stand") + " in the way through " + blocker.relation() + ": "
                + blocker.reason();
    }
}
