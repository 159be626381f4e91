package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Portion;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Sparing;
import io.vacancy.preview.Visibility;
import io.vacancy.preview.Wording;
import io.vacancy.request.Mode;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A preview for people: the record, a tree of what goes, what stays changed, what stands in the way. */
public final class PreviewScreen {

    private static final int SAMPLE_WIDTH = 48;
    private static final int FEW_KEYS = 5;

    private final Vacancy vacancy;
    private final Ink ink;

    public PreviewScreen(Vacancy vacancy, Ink ink) {
        this.vacancy = vacancy;
        this.ink = ink;
    }

    /** All of a preview, line by line. */
    public List<String> lines(Preview preview) {
        List<String> lines = new ArrayList<>();
        Table table = vacancy.schema().table(preview.table());
        if (preview.state() == Preview.State.NOTHING) {
            String message = new Outcome.Nothing(preview).message();
            lines.add(message.replace("; nothing was changed.", "."));
            return lines;
        }
        if (preview.effects().isEmpty()
                && preview.state() == Preview.State.BLOCKED
                && preview.spared().rows() == 0) {
            blockers(preview, lines);
            lines.add("");
            lines.add(sum(preview));
            return lines;
        }
        if (preview.findings().selected() == 0 && preview.state() == Preview.State.BLOCKED) {
            blockers(preview, lines);
            spared(preview, lines);
            lines.add("");
            lines.add(ink.standing("Blocked:") + " everything that was selected is spared.");
            return lines;
        }
        if (preview.effects().isEmpty()) {
            lines.add(ink.standing("Refused: ") + preview.refusal());
            return lines;
        }
        lines.add(ink.strong(
                new Wording(vacancy.rules()).title(preview.request(), table, preview.mode(), preview.findings())));
        lines.add("");
        record(preview, lines);
        if (preview.effects().stream().anyMatch(Effect::goes)) {
            lines.add(ink.strong(heading(preview)));
            lines.addAll(tree(preview));
        }
        changes(preview, lines);
        blockers(preview, lines);
        spared(preview, lines);
        missing(preview, lines);
        visible(preview, lines);
        preview.warnings().forEach(warning -> lines.add(ink.standing("Note: ") + warning));
        lines.add("");
        lines.add(sum(preview));
        return lines;
    }

    private void visible(Preview preview, List<String> lines) {
        Visibility seen = preview.findings().visibility();
        if (seen != null && seen.leftOut() > 0) {
            lines.add(ink.standing("Left out: ")
                    + Wording.rows(seen.leftOut())
                    + (preview.mode() == Mode.RESTORE
                            ? (seen.leftOut() == 1 ? " is" : " are") + " not marked as deleted."
                            : (seen.leftOut() == 1 ? " is" : " are") + " marked as deleted already."));
        }
        if (seen != null && preview.state() == Preview.State.READY) {
            lines.add("");
            lines.add(Wording.active(vacancy.schema().table(preview.table()), seen));
        }
    }

    /** Keys that were asked for and are not there, beside those that are. */
    private void missing(Preview preview, List<String> lines) {
        Portion missing = preview.missing();
        if (missing.rows() > 0) {
            String keys = missing.sample().stream()
                    .limit(FEW_KEYS)
                    .map(PreviewScreen::key)
                    .collect(Collectors.joining("; "));
            lines.add(ink.standing("Not there: ")
                    + Wording.grouped(missing.rows())
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
        return switch (preview.mode()) {
            case ERASE -> ready ? "What goes" : "What would go";
            case SOFT_DELETE -> ready ? "What is marked as deleted" : "What would be marked as deleted";
            case RESTORE -> ready ? "What comes back" : "What would come back";
            case REPLACE -> ready ? "What ends" : "What would end";
            case PURGE -> ready ? "Which images go for good" : "Which images would go for good";
        };
    }

    private void record(Preview preview, List<String> lines) {
        if (preview.records().size() != 1) {
            if (!preview.records().isEmpty()) {
                lines.addAll(new RowsScreen(ink).lines(preview.records()));
                lines.add("");
            }
            return;
        }
        TextTable columns = new TextTable(false, false);
        preview.records().get(0).values().forEach((column, value) -> columns.line()
                .cell(column, ink::quiet)
                .cell(
                        value == null ? "NULL" : value.toString().replaceAll("\\p{Cntrl}", " "),
                        value == null ? ink::quiet : text -> text));
        lines.addAll(columns.lines("  "));
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
        return table.lines("  ");
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
                .cell(stem + effect.table(), ink::leaving)
                .cell(number(effect.rows()))
                .cell(
                        (effect.action() == Action.PURGE
                                        ? ""
                                        : effect.relation() == null ? "selected" : "through " + effect.relation())
                                + (preview.mode() != Mode.ERASE && effect.action() == Action.DELETE ? ", erased" : ""),
                        ink::quiet)
                .cell(effect.sample().isEmpty() ? "" : sample(effect.sample(), effect.rows()), ink::quiet);
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
                .forEach(effect -> lines.add("  " + ink.strong("its successor has ") + effect.becomes()));
        TextTable table = new TextTable(false, true, false, false);
        for (Effect effect : preview.effects()) {
            if (!effect.goes()) {
                table.line()
                        .cell(effect.table().toString())
                        .cell(number(effect.rows()))
                        .cell(effect.relation() + " becomes " + effect.becomes(), ink::quiet)
                        .cell(sample(effect.sample(), effect.rows()), ink::quiet);
            }
        }
        List<String> changes = table.lines("  ");
        if (!changes.isEmpty()) {
            lines.add("");
            lines.add(ink.strong(
                    preview.state() == Preview.State.READY ? "What stays, changed" : "What would stay, changed"));
            lines.addAll(changes);
        }
    }

    private void blockers(Preview preview, List<String> lines) {
        if (preview.blockers().isEmpty()) {
            return;
        }
        lines.add("");
        lines.add(ink.standing("What stands in the way"));
        TextTable table = new TextTable(false, true, false, false);
        for (Blocker blocker : preview.blockers()) {
            table.line()
                    .cell("! " + blocker.table(), ink::standing)
                    .cell(blocker.rows() == 0 ? "" : number(blocker.rows()))
                    .cell(blocker.told())
                    .cell(sample(blocker.sample(), blocker.rows()), ink::quiet);
        }
        lines.addAll(table.lines("  "));
        Map<String, String> ways = new LinkedHashMap<>();
        preview.blockers().stream()
                .filter(blocker -> !blocker.waysOut().isEmpty())
                .forEach(blocker ->
                        ways.put(String.valueOf(blocker.relation()), String.join(" or ", blocker.waysOut())));
        ways.forEach((relation, rules) ->
                lines.add(ink.quiet("    could be unblocked by --rule " + relation + "=" + rules)));
    }

    private void spared(Preview preview, List<String> lines) {
        if (preview.spared().rows() == 0) {
            return;
        }
        lines.add("");
        lines.add(ink.standing("What is spared"));
        TextTable table = new TextTable(false, true, false, false);
        for (Sparing sparing : preview.sparedBy()) {
            table.line()
                    .cell((sparing.sample().isEmpty()
                                    ? preview.table()
                                    : sparing.sample().get(0).table())
                            .toString())
                    .cell(number(sparing.rows()))
                    .cell((sparing.relation() == null ? "" : "because of " + sparing.relation() + ": ")
                            + sparing.reason())
                    .cell(sample(sparing.sample(), sparing.rows()), ink::quiet);
        }
        lines.addAll(table.lines("  "));
    }

    private String sum(Preview preview) {
        if (preview.state() == Preview.State.BLOCKED) {
            return ink.standing("Blocked:") + " nothing can "
                    + (preview.mode() == Mode.RESTORE
                            ? "come back"
                            : preview.mode() == Mode.PURGE ? "go for good" : "go")
                    + " while these rows stand in the way.";
        }
        if (preview.state() == Preview.State.REFUSED) {
            return ink.standing("Refused: ") + preview.refusal();
        }
        Map<Action, Long> totals = preview.totals();
        long gone = totals.getOrDefault(Action.DELETE, 0L);
        long marked = totals.getOrDefault(Action.SOFT_DELETE, 0L);
        long back = totals.getOrDefault(Action.RESTORE, 0L);
        long changed = totals.getOrDefault(Action.SET_NULL, 0L)
                + totals.getOrDefault(Action.REASSIGN, 0L)
                + totals.getOrDefault(Action.RELINK, 0L);
        if (preview.findings().going() == 0) {
            return "No row goes; " + Wording.rows(changed) + (changed == 1 ? " is" : " are") + " changed."
                    + ink.quiet("  fingerprint " + preview.fingerprint());
        }
        long purged = totals.getOrDefault(Action.PURGE, 0L);
        if (purged > 0) {
            return "In all " + Wording.images(purged) + (purged == 1 ? " goes" : " go")
                    + " for good. Nothing stands in the way." + ink.quiet("  fingerprint " + preview.fingerprint());
        }
        List<String> parts = new ArrayList<>();
        part(marked, " is marked", " are marked", parts);
        part(back, " comes back", " come back", parts);
        part(totals.getOrDefault(Action.REPLACE, 0L), " is replaced", " are replaced", parts);
        part(gone, " goes", " go", parts);
        part(changed, " is changed", " are changed", parts);
        return "In all " + String.join(" and ", parts) + ". Nothing stands in the way."
                + ink.quiet("  fingerprint " + preview.fingerprint());
    }

    private static void part(long rows, String one, String several, List<String> parts) {
        if (rows > 0) {
            parts.add(Wording.rows(rows) + (rows == 1 ? one : several));
        }
    }

    private static String number(long count) {
        return String.format(java.util.Locale.ROOT, "%,d", count);
    }
}
