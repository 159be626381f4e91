// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.History;
import io.vacancy.archive.ReceiptId;
import io.vacancy.preview.Action;
import io.vacancy.preview.CountText;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.Bypass;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import io.vacancy.trail.Verification;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The audit history, entry by entry, and what looking at its seals found. */
public final class HistoryScreen {

    /** The columns of an entry, for those who read tables. */
    public static final List<String> COLUMNS = List.of(
            "at",
            "kind",
            "ending",
            "by",
            "on_behalf_of",
            "origin",
            "table",
            "selected",
            "rows",
            "keys",
            "because",
            "asked",
            "answer",
            "receipt",
            "reason",
            "entry");

    private static final int KEYS_SHOWN = 5;
    private static final int WIDEST = 100;
    private static final String INDENT = "    ";

    private final TextLayout layout;
    private final AnsiStyle style;

    public HistoryScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    /** @param image what a row held when it went by an entry, or null where that is not kept */
    public List<String> lines(String title, History.Page page, Function<TrailEntry, @Nullable Row> image) {
        List<String> lines = new ArrayList<>();
        lines.add(style.strong(title + ", newest first"));
        for (TrailEntry entry : page.entries()) {
            lines.add("");
            entry(entry, image.apply(entry), lines);
        }
        return lines;
    }

    private void entry(TrailEntry entry, @Nullable Row image, List<String> lines) {
        boolean done = entry.ending() == Ending.DONE;
        String time = "  " + at(entry.at()) + "  ";
        lines.addAll(layout.hanging(
                time,
                (done ? style.settled(word(entry)) + " " : style.standing(word(entry)) + ": ")
                        + style.strong(subject(entry))
                        + style.quiet(done ? " by " : ", asked for by ")
                        + who(entry)));
        TextTable effects = new TextTable(true, false, false, false);
        entry.affected().stream()
                .filter(affectedRows -> affectedRows.action() != null)
                .forEach(affectedRows -> effect(affectedRows, effects));
        lines.addAll(effects.lines(INDENT, layout));
        FactTable facts = new FactTable(layout);
        entry.affected().stream()
                .filter(affectedRows -> affectedRows.action() == Action.REPLACE)
                .forEach(affectedRows -> facts.add("successor", affectedRows.becomes()));
        facts.add("because", entry.because());
        facts.add("reason", done ? null : entry.reason());
        facts.add("selected", selected(entry));
        facts.add("deletion", entry.deletion() == null ? null : "@" + entry.deletion());
        Confirmation asked = entry.confirmation();
        facts.add(asked == null ? "" : asked.how().word(), asked == null ? null : asked(asked));
        facts.add("approved-by", asked == null ? null : asked.approvedBy());
        facts.add(
                "archived under",
                entry.receipts().isEmpty()
                        ? null
                        : entry.receipts().stream().map(ReceiptId::value).collect(Collectors.joining(", ")));
        facts.add("receipt", entry.receipt() == null ? null : receipt(entry));
        facts.add("origin", entry.origin().isEmpty() ? null : origin(entry));
        lines.addAll(facts.lines(INDENT));
        if (image != null) {
            held(image, lines);
        }
    }

    static String who(TrailEntry entry) {
        return entry.by() + (entry.onBehalfOf() == null ? "" : " for " + entry.onBehalfOf());
    }

    /** By what rows were selected, where that is not told already. */
    private static @Nullable String selected(TrailEntry entry) {
        boolean held = entry.kind() == Kind.HOLD || entry.kind() == Kind.RELEASE;
        return held || entry.selected().isEmpty() || entry.selected().startsWith("by ") ? null : entry.selected();
    }

    private static String receipt(TrailEntry entry) {
        return entry.receipt() + (entry.part() > 1 ? ", part " + entry.part() : "");
    }

    private static String origin(TrailEntry entry) {
        return entry.origin().entrySet().stream()
                .map(each -> each.getKey() + ": " + each.getValue())
                .collect(Collectors.joining(", "));
    }

    private static String asked(Confirmation asked) {
        return asked.answer() == null ? asked.words() : asked.words() + " – answered \"" + asked.answer() + "\"";
    }

    /** What was done, or what became of what was to be done. */
    static String word(TrailEntry entry) {
        String did = did(entry.kind());
        return switch (entry.ending()) {
            case DONE -> did;
            case BEGUN -> "About to be " + did.toLowerCase(Locale.ROOT);
            case BLOCKED, REFUSED, DECLINED ->
                "Not " + did.toLowerCase(Locale.ROOT) + " but " + entry.ending().word();
        };
    }

    static String did(Kind kind) {
        return switch (kind) {
            case ERASE -> "Erased";
            case SOFT_DELETE -> "Marked as deleted";
            case RESTORE -> "Restored";
            case REPLACE -> "Replaced";
            case MERGE -> "Merged";
            case BLANK -> "Blanked";
            case FORGET -> "Forgotten";
            case PURGE -> "Purged";
            case TRUNCATE -> "Emptied at once";
            case DROP -> "Dropped";
            case UNLINK_ORPHANS -> "Unlinked";
            case DESTROY_KEY -> "Key destroyed";
            case HOLD -> "Held";
            case RELEASE -> "Released";
        };
    }

    /** The one row by its key, or how many. */
    static String subject(TrailEntry entry) {
        if (entry.affected().isEmpty()) {
            return entry.selected();
        }
        AffectedRows first = entry.affected().get(0);
        if (entry.kind() == Kind.DROP) {
            String what = first.becomes() == null
                    ? "table " + first.table()
                    : "column " + first.becomes() + " of " + first.table();
            return what + (first.rows() == 0 ? "" : ", " + CountText.rows(first.rows()));
        }
        if (first.rows() == 1 && first.keys().size() == 1) {
            return first.table() + " " + first.keys().get(0);
        }
        return first.rows() == 0
                ? (entry.kind() == Kind.HOLD || entry.kind() == Kind.RELEASE ? entry.selected() : first.table())
                : CountText.rows(first.rows()) + " of " + first.table();
    }

    private void effect(AffectedRows affectedRows, TextTable effects) {
        Action action = affectedRows.action();
        String keys = affectedRows.keys().stream().limit(KEYS_SHOWN).collect(Collectors.joining(", "));
        String relation = affectedRows.relation();
        effects.line()
                .cell(CountText.grouped(affectedRows.rows()))
                .cell((action == null ? "" : OutcomeScreen.did(action)) + affectedRows.table(), style::leaving)
                .cell(through(affectedRows), style::quiet)
                .cell(
                        keys
                                + (!keys.isEmpty()
                                                && affectedRows.rows()
                                                        > Math.min(
                                                                KEYS_SHOWN,
                                                                affectedRows
                                                                        .keys()
                                                                        .size())
                                        ? ", …"
                                        : ""),
                        style::quiet);
    }

    private static String through(AffectedRows affectedRows) {
        String relation = affectedRows.relation();
        return (relation == null || relation.isEmpty() ? "" : "through " + relation)
                + (affectedRows.action() == Action.REASSIGN ? ", now " + affectedRows.becomes() : "");
    }

    /** Broken between columns, since rows are wide. */
    private void held(Row row, List<String> lines) {
        StringBuilder line = new StringBuilder();
        String title = "it held  ";
        for (Map.Entry<String, @Nullable Object> value : row.values().entrySet()) {
            if (value.getValue() != null) {
                String next = value.getKey() + " " + RowsScreen.shown(value.getValue());
                if (line.length() + next.length()
                        > Math.min(WIDEST, layout.width() - INDENT.length() - title.length() - 1)) {
                    lines.add(INDENT + style.quiet(title) + line + ",");
                    title = " ".repeat("it held  ".length());
                    line.setLength(0);
                }
                line.append(line.isEmpty() ? "" : ", ").append(next);
            }
        }
        lines.add(INDENT + style.quiet(title) + line);
    }

    private static String at(Instant time) {
        return LocalTime.seconds(time);
    }

    /** An entry as a row of a table. */
    public static Row row(TrailEntry entry) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        Confirmation asked = entry.confirmation();
        List<@Nullable Object> cells = Arrays.asList(
                entry.at().toString(),
                entry.kind().word(),
                entry.ending().word(),
                entry.by(),
                entry.onBehalfOf(),
                origin(entry),
                entry.table(),
                entry.selected(),
                entry.rows(),
                entry.affected().isEmpty()
                        ? null
                        : String.join(" ", entry.affected().get(0).keys()),
                entry.because(),
                asked == null ? null : asked.words(),
                asked == null ? null : asked.answer(),
                entry.receipt() == null ? null : String.valueOf(entry.receipt()),
                entry.reason(),
                entry.id());
        for (int i = 0; i < COLUMNS.size(); i++) {
            values.put(COLUMNS.get(i), cells.get(i));
        }
        return new Row(new TableName(null, "history"), values);
    }

    /** What was done around Vacancy, as far as triggers have seen it; nothing where they have seen nothing. */
    public List<String> bypasses(List<Bypass> bypasses, int most) {
        if (bypasses.isEmpty()) {
            return List.of();
        }
        List<String> lines = new ArrayList<>();
        lines.add("");
        lines.add(style.standing("Without a receipt") + " rows were deleted or marked by statements that did not go"
                + " through Vacancy"
                + (bypasses.size() < most ? ":" : "; the last " + most + " of them:"));
        TextTable table = new TextTable(false, false, false, false);
        for (Bypass bypass : bypasses) {
            String key = bypass.key();
            table.line()
                    .cell(at(bypass.at()))
                    .cell(bypass.action())
                    .cell(bypass.table() + (key == null ? "" : " " + key))
                    .cell(bypass.user() == null ? "" : "as " + bypass.user(), style::quiet);
        }
        lines.addAll(table.lines("  ", layout));
        return lines;
    }

    /** What looking at the trail found. */
    public List<String> verification(Verification found, @Nullable ChainHead kept) {
        List<String> lines = new ArrayList<>();
        IntegrityViolation flaw = found.flaw();
        long sealed = found.head().position();
        if (flaw == null) {
            lines.add(style.settled("Verified.") + " " + entries(sealed) + (sealed == 1 ? " is" : " are")
                    + " what was sealed, all of them and in their order.");
        } else {
            lines.add(style.standing("Verification failed.") + " "
                    + (flaw.position() > 0 ? "At place " + flaw.position() + " of the chain, " : "Beside the chain, ")
                    + "something was " + flaw.kind().word() + ".");
            lines.add("  " + flaw.message());
            lines.add("  " + (sealed == 0 ? "Nothing" : entries(sealed)) + " before that "
                    + (sealed == 1 ? "is" : sealed == 0 ? "is known to be" : "are") + " what was sealed.");
        }
        FactTable facts = new FactTable(layout);
        facts.add("entry", flaw == null ? null : flaw.entry());
        facts.add(flaw == null ? "head" : "verified up to", found.head().toString());
        facts.add("head kept elsewhere", kept == null ? null : kept.toString());
        Instant oldest = found.oldestUnsealed();
        facts.add(
                "unsealed",
                found.unsealed() == 0
                        ? null
                        : entries(found.unsealed()) + (oldest == null ? "" : ", the oldest of " + at(oldest))
                                + "; nothing protects them yet");
        lines.addAll(facts.lines("  "));
        if (flaw == null && kept == null) {
            lines.add(
                    style.quiet(
                            "Whether the last entries were cut off shows only with --head and a head that was kept elsewhere."));
        }
        return lines;
    }

    private static String entries(long number) {
        return CountText.grouped(number) + (number == 1 ? " entry" : " entries");
    }
}
