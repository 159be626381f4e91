// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Estimate;
import io.vacancy.preview.Preview;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A preview for people: the record, a tree of what goes, what stays changed, what stands in the way. */
public final class PreviewScreen {

    private static final int SAMPLE_WIDTH = 48;
    private static final int FEW_KEYS = 5;

    private final Vacancy vacancy;
    private final TextLayout layout;
    private final AnsiStyle style;

    public PreviewScreen(Vacancy vacancy, TextLayout layout) {
        this.vacancy = vacancy;
        this.layout = layout;
        this.style = layout.style();
    }

    /** All of a preview, line by line. */
    public List<String> lines(Preview preview) {
        List<String> lines = new ArrayList<>();
        if (preview.state() == Preview.State.NOTHING) {
            String message = new Outcome.Nothing(preview).message();
            lines.add(message.replace("; nothing was changed.", "."));
            return lines;
        }
        if (preview.effects().isEmpty()
                && preview.state() == Preview.State.BLOCKED
                && preview.skipped().rows() == 0) {
            blockers(preview, lines);
            lines.add("");
            lines.add(sum(preview));
            return lines;
        }
        if (preview.impact().selected() == 0 && preview.state() == Preview.State.BLOCKED) {
            blockers(preview, lines);
            skipped(preview, lines);
            lines.add("");
            lines.add(style.standing("Blocked:") + " everything that was selected is skipped.");
            return lines;
        }
        if (preview.effects().isEmpty()) {
            lines.add(style.standing("Refused: ") + preview.refusal());
            return lines;
        }
        lines.add(style.strong(preview.title()));
        lines.add("");
        record(preview, lines);
        if (preview.effects().stream().anyMatch(Effect::goes)) {
            lines.add(style.strong(heading(preview)));
            lines.addAll(tree(preview));
        }
        changes(preview, lines);
        blockers(preview, lines);
        skipped(preview, lines);
        missing(preview, lines);
        visible(preview, lines);
        preview.warnings().forEach(warning -> lines.add(style.standing("Note: ") + warning));
        lines.add("");
        lines.add(sum(preview));
        Estimate estimate = preview.estimate();
        if (estimate != null) {
            lines.add(estimate.message());
            estimate.missingIndexes().forEach(missing -> lines.add(style.standing("Slow: ") + missing));
        }
        if (preview.approval() != null) {
            lines.add(style.standing("Needs an approval: ") + "somebody else has to approve it first ("
                    + preview.approval() + ").");
        }
        if (preview.state() == Preview.State.READY) {
            lines.add(style.quiet("fingerprint " + preview.fingerprint()));
        }
        return lines;
    }

    private void visible(Preview preview, List<String> lines) {
        ActiveCounts seen = preview.impact().activeCounts();
        if (seen != null && seen.leftOut() > 0) {
            lines.add(style.standing("Left out: ")
                    + CountText.rows(seen.leftOut())
                    + (preview.operation() == OperationKind.RESTORE
                            ? (seen.leftOut() == 1 ? " is" : " are") + " not marked as deleted."
                            : (seen.leftOut() == 1 ? " is" : " are") + " marked as deleted already."));
        }
        if (seen != null && preview.state() == Preview.State.READY) {
            lines.add("");
            lines.add(seen.message(preview.table()));
        }
    }

    /** Keys that were asked for and are not there, beside those that are. */
    private void missing(Preview preview, List<String> lines) {
        RowSample missing = preview.missing();
        if (missing.rows() > 0) {
            String keys = missing.sample().stream()
                    .limit(FEW_KEYS)
                    .map(PreviewScreen::key)
                    .collect(Collectors.joining("; "));
            lines.add(style.standing("Not there: ")
                    + CountText.grouped(missing.rows())
                    + (missing.rows() == 1 ? " key, " : " keys, ")
                    + keys
                    + (missing.rows() > FEW_KEYS ? "; … (--missing lists them all)" : ""));
        }
    }

    private static String key(Row row) {
        return row.values().entrySet().stream()
                .map(part -> part.getKey() + " " + part.getValue())
                .collect(Collectors.joining(", "));
    }

    private static String heading(Preview preview) {
        boolean ready = preview.state() == Preview.State.READY;
        return switch (preview.operation()) {
            case ERASE, TRUNCATE, MERGE -> ready ? "Will be deleted" : "Would be deleted";
            case UNLINK_ORPHANS -> ready ? "Will be updated" : "Would be updated";
            case SOFT_DELETE -> ready ? "Will be marked as deleted" : "Would be marked as deleted";
            case BLANK -> ready ? "Will be blanked" : "Would be blanked";
            case FORGET -> ready ? "Will be erased" : "Would be erased";
            case RESTORE -> ready ? "Will be restored" : "Would be restored";
            case REPLACE -> ready ? "Will end" : "Would end";
            case PURGE -> ready ? "Will be purged" : "Would be purged";
            case DROP -> ready ? "Will be dropped" : "Would be dropped";
        };
    }

    private void record(Preview preview, List<String> lines) {
        if (preview.records().size() != 1) {
            if (!preview.records().isEmpty()) {
                Map<TableName, List<Row>> byTable = new LinkedHashMap<>();
                preview.records().forEach(row -> byTable.computeIfAbsent(row.table(), table -> new ArrayList<>())
                        .add(row));
                byTable.forEach((table, rows) -> {
                    if (byTable.size() > 1) {
                        lines.add(style.strong(table.toString()));
                    }
                    lines.addAll(new RowsScreen(layout).lines(rows));
                    lines.add("");
                });
            }
            return;
        }
        lines.addAll(new RowsScreen(layout).record(preview.records().get(0)));
        lines.add("");
    }

    /** The effects under the tables whose rows they depend on. An effect stands where it was counted. */
    private List<String> tree(Preview preview) {
        List<Effect> going = preview.effects().stream().filter(Effect::goes).toList();
        TextTable table = new TextTable(false, true, false, false);
        Set<Effect> drawn = new HashSet<>();
        for (Effect effect : going) {
            if (effect.relation() == null) {
                branch(preview, effect, "", "", going, drawn, table);
            }
        }
        // What went with rows that do not come back now has nothing to stand under.
        going.stream()
                .filter(effect -> !drawn.contains(effect))
                .forEach(effect -> branch(preview, effect, "", "", going, drawn, table));
        return table.lines("  ", layout);
    }

    private void branch(
            Preview preview,
            Effect effect,
            String stem,
            String below,
            List<Effect> all,
            Set<Effect> drawn,
            TextTable table) {
        drawn.add(effect);
        table.line()
                .cell(stem + effect.table(), style::leaving)
                .cell(number(effect.rows()))
                .cell(
                        (effect.action() == Action.PURGE
                                        ? ""
                                        : effect.relation() == null ? "selected" : "through " + effect.relation())
                                + (preview.totals().containsKey(Action.SOFT_DELETE) && effect.action() == Action.DELETE
                                        ? ", erased"
                                        : ""),
                        style::quiet)
                .sample(effect.sample().isEmpty() ? "" : sample(effect.sample(), effect.rows()), style::quiet);
        List<Effect> children = all.stream()
                .filter(child -> !drawn.contains(child) && effect.table().equals(parent(child)))
                .toList();
        drawn.addAll(children);
        for (int i = 0; i < children.size(); i++) {
            boolean last = i == children.size() - 1;
            branch(
                    preview,
                    children.get(i),
                    below + (last ? "└─ " : "├─ "),
                    below + (last ? "   " : "│  "),
                    all,
                    drawn,
                    table);
        }
    }

    private @Nullable TableName parent(Effect effect) {
        return effect.relation() == null
                ? null
                : vacancy.schema().relation(effect.relation()).parent();
    }

    /** The first rows by name, as far as they fit into the last column. */
    private String sample(List<Row> rows, long all) {
        StringBuilder labels = new StringBuilder();
        int shown = 0;
        for (Row row : rows) {
            String label = (shown == 0 ? "" : ", ") + vacancy.rules().label(row);
            if (shown > 0 && labels.length() + label.length() > SAMPLE_WIDTH) {
                break;
            }
            labels.append(label);
            shown++;
        }
        return all > shown ? labels + ", …" : labels.toString();
    }

    private void changes(Preview preview, List<String> lines) {
        preview.effects().stream()
                .filter(effect -> effect.action() == Action.REPLACE)
                .forEach(effect -> lines.add("  " + style.strong("its successor has ") + effect.becomes()));
        boolean ready = preview.state() == Preview.State.READY;
        updates(
                preview,
                effect -> effect.action() != Action.KEEP,
                ready ? "Will be updated" : "Would be updated",
                lines);
        updates(preview, effect -> effect.action() == Action.KEEP, ready ? "Will be kept" : "Would be kept", lines);
    }

    private void updates(Preview preview, Predicate<Effect> which, String heading, List<String> lines) {
        TextTable table = new TextTable(false, true, false, false);
        for (Effect effect : preview.effects()) {
            if (!effect.goes() && which.test(effect)) {
                table.line()
                        .cell(effect.table().toString())
                        .cell(number(effect.rows()))
                        .cell(change(effect), style::quiet)
                        .sample(sample(effect.sample(), effect.rows()), style::quiet);
            }
        }
        List<String> changes = table.lines("  ", layout);
        if (!changes.isEmpty()) {
            if (!lines.get(lines.size() - 1).isEmpty()) {
                lines.add("");
            }
            lines.add(style.strong(heading));
            lines.addAll(changes);
        }
    }

    private static String change(Effect effect) {
        String through = effect.relation() == null ? "" : "through " + effect.relation() + ": ";
        return switch (effect.action()) {
            case BLANK -> through + effect.becomes();
            case KEEP -> through + effect.becomes();
            case PUT_BACK -> through + effect.becomes() + " as before";
            case DROP -> "lose what they have in " + effect.becomes();
            default -> effect.relation() + " becomes " + effect.becomes();
        };
    }

    private void blockers(Preview preview, List<String> lines) {
        if (preview.blockers().isEmpty()) {
            return;
        }
        lines.add("");
        lines.add(style.standing("Blocked by"));
        TextTable table = new TextTable(false, true, false, false);
        for (Blocker blocker : preview.blockers()) {
            table.line()
                    .cell("! " + blocker.table(), style::standing)
                    .cell(blocker.rows() == 0 ? "" : number(blocker.rows()))
                    .cell(blocker.message())
                    .sample(sample(blocker.sample(), blocker.rows()), style::quiet);
        }
        lines.addAll(table.lines("  ", layout));
        Set<String> ways = new LinkedHashSet<>();
        for (Blocker blocker : preview.blockers()) {
            blocker.permittedRules().forEach(rule -> ways.add("--rule " + blocker.relation() + "=" + rule));
        }
        if (!ways.isEmpty()) {
            lines.add(style.quiet("    could be unblocked by"));
            ways.forEach(way -> lines.add("      " + style.command(way)));
        }
    }

    private void skipped(Preview preview, List<String> lines) {
        if (preview.skipped().rows() == 0) {
            return;
        }
        lines.add("");
        lines.add(style.standing("Skipped"));
        TextTable table = new TextTable(false, true, false, false);
        for (SkipReason skipping : preview.skippedBy()) {
            table.line()
                    .cell((skipping.sample().isEmpty()
                                    ? preview.table()
                                    : skipping.sample().get(0).table())
                            .toString())
                    .cell(number(skipping.rows()))
                    .cell((skipping.relation() == null ? "" : "because of " + skipping.relation() + ": ")
                            + skipping.reason())
                    .sample(sample(skipping.sample(), skipping.rows()), style::quiet);
        }
        lines.addAll(table.lines("  ", layout));
    }

    private String sum(Preview preview) {
        if (preview.state() == Preview.State.BLOCKED) {
            return style.standing("Blocked:") + " nothing will be "
                    + (switch (preview.operation()) {
                        case DROP -> "dropped";
                        case RESTORE -> "restored";
                        case PURGE -> "purged";
                        case BLANK -> "blanked";
                        case FORGET -> "forgotten";
                        default -> "deleted";
                    })
                    + (preview.operation() == OperationKind.DROP
                            ? " while this blocks it."
                            : " while these rows block it.");
        }
        if (preview.state() == Preview.State.REFUSED) {
            return style.standing("Refused: ") + preview.refusal();
        }
        Map<Action, Long> totals = preview.totals();
        long gone = totals.getOrDefault(Action.DELETE, 0L);
        long marked = totals.getOrDefault(Action.SOFT_DELETE, 0L);
        long back = totals.getOrDefault(Action.RESTORE, 0L);
        long changed = totals.getOrDefault(Action.SET_NULL, 0L)
                + totals.getOrDefault(Action.REASSIGN, 0L)
                + totals.getOrDefault(Action.RELINK, 0L);
        long purged = totals.getOrDefault(Action.PURGE, 0L);
        if (purged > 0) {
            return "Total: " + CountText.archivedRows(purged) + " to purge. Nothing blocks it.";
        }
        List<String> parts = new ArrayList<>();
        part(marked, "mark", parts);
        part(back, "restore", parts);
        part(totals.getOrDefault(Action.REPLACE, 0L), "replace", parts);
        part(gone, "delete", parts);
        part(totals.getOrDefault(Action.BLANK, 0L), "blank", parts);
        part(totals.getOrDefault(Action.KEEP, 0L), "keep", parts);
        part(totals.getOrDefault(Action.PUT_BACK, 0L), "put back", parts);
        part(changed, "update", parts);
        part(totals.getOrDefault(Action.DROP, 0L), "drop", parts);
        if (parts.isEmpty()) {
            return "Nothing is in it. Nothing blocks it.";
        }
        return "Total: " + String.join(", ", parts) + ". Nothing blocks it.";
    }

    private static void part(long rows, String done, List<String> parts) {
        if (rows > 0) {
            parts.add(CountText.rows(rows) + " to " + done);
        }
    }

    private static String number(long count) {
        return String.format(java.util.Locale.ROOT, "%,d", count);
    }
}
