// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** How a deletion ended, for people. */
public final class OutcomeScreen {

    private static final String REPEATED = "It was done before, under the same id; nothing was changed now.";

    private final Vacancy vacancy;
    private final TextLayout layout;
    private final AnsiStyle style;

    public OutcomeScreen(Vacancy vacancy, TextLayout layout) {
        this.vacancy = vacancy;
        this.layout = layout;
        this.style = layout.style();
    }

    public List<String> lines(Outcome outcome) {
        if (outcome instanceof Outcome.Done done) {
            List<String> told = receipt(done.receipt());
            return done.repeated()
                    ? Stream.concat(Stream.of(REPEATED), told.stream()).toList()
                    : told;
        }
        List<String> lines = new ArrayList<>();
        if (outcome instanceof Outcome.Changed changed) {
            lines.add(style.standing("Changed since it was shown. Nothing was done."));
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
            case RESTORE -> "restored in ";
            case REPLACE -> "ended, with a successor, in ";
            case SET_NULL -> "link set to NULL in ";
            case REASSIGN -> "moved to another parent in ";
            case RELINK -> "link restored in ";
            case BLANK -> "blanked in ";
            case KEEP -> "kept in ";
            case PUT_BACK -> "blanked columns restored in ";
            case PURGE -> "purged from the archive of ";
            case DROP -> "dropped with ";
        };
    }

    private List<String> receipt(Receipt receipt) {
        List<String> lines = new ArrayList<>();
        lines.add(style.settled("Done.") + " " + name(receipt)
                + (one(receipt) ? " is " : " are ")
                + word(receipt.operation()));
        TextTable counts = new TextTable(true, false, false);
        for (Effect effect : receipt.effects()) {
            counts.line()
                    .cell(String.format(Locale.ROOT, "%,d", effect.rows()))
                    .cell(did(effect.action()) + effect.table())
                    .cell(effect.relation() == null ? "" : "through " + effect.relation(), style::quiet);
        }
        lines.addAll(counts.lines("  ", layout));
        FactTable facts = new FactTable(layout);
        facts.add("receipt", receipt.id().value());
        facts.add("by", receipt.by());
        facts.add("at", LocalTime.seconds(receipt.at()));
        facts.add("because", receipt.because());
        facts.add("unconfirmed", receipt.withoutConfirmation());
        receipt.rules().forEach((relation, rule) -> facts.add("rule", relation + "=" + rule));
        facts.add(
                "skipped",
                receipt.skipped().rows() == 0
                        ? null
                        : CountText.rows(receipt.skipped().rows()) + " of " + receipt.table());
        facts.add("deletion", receipt.deletion() == null ? null : "@" + receipt.deletion());
        ActiveCounts seen = receipt.activeCounts();
        facts.add(
                "active",
                seen == null
                        ? null
                        : (receipt.selectedFrom().size() > 1 ? receipt.table() + ": " : "")
                                + CountText.grouped(seen.activeAfter()) + " of " + CountText.grouped(seen.storedAfter())
                                + " stored; before, " + CountText.grouped(seen.activeBefore()) + " of "
                                + CountText.grouped(seen.storedBefore()));
        facts.add("archived", archived(receipt));
        facts.add("saved to", receipt.savedTo());
        lines.addAll(facts.lines("  "));
        return lines;
    }

    private static String dropped(Receipt receipt) {
        String column =
                receipt.effects().isEmpty() ? null : receipt.effects().get(0).becomes();
        return column == null ? "Table " + receipt.table() : "Column " + column + " of " + receipt.table();
    }

    private static boolean one(Receipt receipt) {
        if (receipt.operation() == OperationKind.DROP) {
            return true;
        }
        return receipt.operation() == OperationKind.PURGE
                ? receipt.totals().getOrDefault(Action.PURGE, 0L) == 1
                : receipt.rows() == 1;
    }

    private static @Nullable String archived(Receipt receipt) {
        if (Stream.of(Action.DELETE, Action.BLANK, Action.DROP).noneMatch(receipt.totals()::containsKey)) {
            return null;
        }
        if (receipt.archived()) {
            return "a copy, from which it can be restored";
        }
        if (receipt.savedTo() != null) {
            return "no copy in the database";
        }
        return receipt.operation() == OperationKind.SOFT_DELETE
                ? "nothing of what was erased; what was marked can be restored"
                : "nothing; it cannot be restored";
    }

    private static String word(OperationKind operation) {
        return switch (operation) {
            case ERASE, TRUNCATE -> "deleted.";
            case MERGE -> "merged.";
            case BLANK -> "blanked.";
            case FORGET -> "forgotten.";
            case UNLINK_ORPHANS -> "changed.";
            case SOFT_DELETE -> "marked as deleted.";
            case RESTORE -> "restored.";
            case REPLACE -> "replaced.";
            case PURGE -> "purged.";
            case DROP -> "dropped.";
        };
    }

    private String name(Receipt receipt) {
        if (receipt.operation() == OperationKind.PURGE) {
            return CountText.archivedRows(receipt.totals().getOrDefault(Action.PURGE, 0L));
        }
        if (receipt.operation() == OperationKind.DROP) {
            return dropped(receipt);
        }
        return receipt.selected().entrySet().stream()
                .map(of -> name(receipt, of.getKey(), of.getValue()))
                .collect(Collectors.joining(" and "));
    }

    private String name(Receipt receipt, TableName table, long rows) {
        List<Row> records = receipt.records().stream()
                .filter(row -> row.table().equals(table))
                .toList();
        return rows == 1 && records.size() == 1
                ? table + " " + vacancy.rules().label(records.get(0))
                : CountText.rows(rows) + " of " + table;
    }
}
