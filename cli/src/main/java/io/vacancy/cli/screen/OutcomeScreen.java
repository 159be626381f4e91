package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Visibility;
import io.vacancy.preview.Wording;
import io.vacancy.request.Mode;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How a deletion ended, for people. */
public final class OutcomeScreen {

    private final Vacancy vacancy;
    private final Ink ink;

    public OutcomeScreen(Vacancy vacancy, Ink ink) {
        this.vacancy = vacancy;
        this.ink = ink;
    }

    public List<String> lines(Outcome outcome) {
        if (outcome instanceof Outcome.Done done) {
            return receipt(done.receipt());
        }
        List<String> lines = new ArrayList<>();
        if (outcome instanceof Outcome.Changed changed) {
            lines.add(ink.standing("Changed since it was shown. Nothing was done."));
            changed.differences().forEach(difference -> lines.add("  " + difference));
            lines.add("Look again, and answer what you see then.");
        } else if (outcome instanceof Outcome.Blocked || outcome instanceof Outcome.Refused) {
            // What stands against it has just been shown.
            lines.add("Nothing was changed.");
        } else {
            lines.add(outcome.message());
        }
        return lines;
    }

    /** What was done to rows, to stand before the name of their table. */
    static String did(Action action) {
        return switch (action) {
            case DELETE -> "erased from ";
            case SOFT_DELETE -> "marked in ";
            case RESTORE -> "brought back in ";
            case REPLACE -> "ended, with a successor, in ";
            case SET_NULL -> "link set to NULL in ";
            case REASSIGN -> "moved to another parent in ";
            case RELINK -> "link put back in ";
            case PURGE -> "gone for good of what was kept of ";
        };
    }

    private List<String> receipt(Receipt receipt) {
        List<String> lines = new ArrayList<>();
        boolean goes = receipt.effects().isEmpty() || receipt.effects().get(0).goes();
        lines.add(ink.settled("Done.") + " " + name(receipt)
                + (receipt.rows() == 1 && receipt.mode() != Mode.PURGE ? " is " : " are ")
                + (goes ? word(receipt.mode()) : "changed."));
        TextTable counts = new TextTable(true, false, false);
        for (Effect effect : receipt.effects()) {
            counts.line()
                    .cell(String.format(Locale.ROOT, "%,d", effect.rows()))
                    .cell(did(effect.action()) + effect.table())
                    .cell(effect.relation() == null ? "" : "through " + effect.relation(), ink::quiet);
        }
        lines.addAll(counts.lines("  "));
        TextTable facts = new TextTable(false, false);
        fact(facts, "receipt", receipt.id());
        fact(facts, "by", receipt.by());
        fact(facts, "at", receipt.at().truncatedTo(ChronoUnit.SECONDS).toString());
        fact(facts, "because", receipt.because());
        fact(facts, "unasked", receipt.unasked());
        receipt.rules().forEach((relation, rule) -> fact(facts, "rule", relation + "=" + rule));
        fact(
                facts,
                "spared",
                receipt.spared().rows() == 0
                        ? null
                        : Wording.rows(receipt.spared().rows()) + " of " + receipt.table());
        fact(facts, "deletion", receipt.named() == null ? null : "@" + receipt.named());
        Visibility seen = receipt.visibility();
        fact(
                facts,
                "active",
                seen == null
                        ? null
                        : Wording.grouped(seen.activeAfter()) + " of " + Wording.grouped(seen.storedAfter())
                                + " stored; before, " + Wording.grouped(seen.activeBefore()) + " of "
                                + Wording.grouped(seen.storedBefore()));
        boolean erased = receipt.totals().containsKey(Action.DELETE);
        String nothing = receipt.mode() == Mode.ERASE
                ? "nothing; it cannot be brought back"
                : "nothing of what was erased; what was marked can be brought back";
        fact(
                facts,
                "kept",
                !erased
                        ? null
                        : receipt.kept()
                                ? "images of the rows; vacancy restore with the receipt brings them back"
                                : nothing);
        lines.addAll(facts.lines("  "));
        return lines;
    }

    private static String word(Mode mode) {
        return switch (mode) {
            case ERASE -> "gone.";
            case SOFT_DELETE -> "marked as deleted.";
            case RESTORE -> "back.";
            case REPLACE -> "replaced.";
            case PURGE -> "gone for good.";
        };
    }

    private void fact(TextTable facts, String name, @Nullable String value) {
        if (value != null) {
            facts.line().cell(name, ink::quiet).cell(value);
        }
    }

    private String name(Receipt receipt) {
        if (receipt.mode() == Mode.PURGE) {
            return Wording.images(receipt.totals().getOrDefault(Action.PURGE, 0L));
        }
        return receipt.records().size() == 1
                ? receipt.table() + " " + vacancy.rules().label(receipt.record())
                : Wording.rows(receipt.rows()) + " of " + receipt.table();
    }
}
