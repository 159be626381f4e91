package io.vacancy.preview;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Written;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Mode;
import io.vacancy.request.Narrowing;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.math.BigDecimal;
import java.time.Period;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Puts findings into the sentences that a person is asked with. */
public final class Wording {

    private static final int LONGEST = 160;

    private final Rules rules;

    public Wording(Rules rules) {
        this.rules = rules;
    }

    /** The question for findings that could go ahead. */
    public Question ask(Request request, Table table, Mode mode, Findings findings) {
        // Whoever brings back all that was marked loses nothing.
        boolean everyRow = goes(mode) && findings.everyRowOf(table.name());
        long many = Math.max(findings.going(), findings.selected());
        Strength strength = rules.strength(table.name(), everyRow, many);
        if (strength == Strength.LABEL && findings.records().size() != 1) {
            strength = Strength.COUNT;
        }
        String awaited =
                switch (strength) {
                    case NONE -> null;
                    case YES_NO -> "yes";
                    case COUNT -> Long.toString(many);
                    case LABEL -> rules.label(findings.records().get(0)).strip();
                    case TABLE -> table.toString();
                };
        return new Question(
                strength,
                title(request, table, mode, findings) + "?",
                consequences(request, table, everyRow, mode, findings),
                awaited,
                findings.fingerprint());
    }

    private static boolean goes(Mode mode) {
        return mode == Mode.ERASE || mode == Mode.SOFT_DELETE;
    }

    /** What is to be done, in a few words: "Erase boat Osprey (HV-204)". */
    public String title(Request request, Table table, Mode mode, Findings findings) {
        if (request.selection() instanceof Selection.Orphans orphans && orphans.setNull()) {
            return "Set " + orphans.relation() + " to NULL in " + rows(findings.selected()) + " of " + table
                    + ", whose parent is missing";
        }
        return request.selection() instanceof Selection.EveryRow every && every.atOnce()
                ? "Empty table " + table + " at once, all " + rows(findings.selected())
                : switch (mode) {
                            case ERASE -> "Erase ";
                            case SOFT_DELETE -> "Mark as deleted ";
                            case RESTORE -> "Bring back ";
                            case REPLACE -> "Replace ";
                            case PURGE -> "Remove for good ";
                        }
                        + what(request, table, mode, findings);
    }

    /** No question, because there is nothing that a yes could do. */
    public Question none(String why, Findings findings) {
        return new Question(Strength.NONE, why, List.of(), null, findings.fingerprint());
    }

    /** The one row by its label, or the number of rows and by what they were selected. */
    private String what(Request request, Table table, Mode mode, Findings findings) {
        if (mode == Mode.PURGE) {
            long tables =
                    findings.effects().stream().map(Effect::table).distinct().count();
            return images(findings.going()) + " of " + (tables == 1 ? table.toString() : tables + " tables");
        }
        List<Row> records = findings.records();
        if (findings.selected() == 1 && records.size() == 1) {
            return table + " " + rules.label(records.get(0));
        }
        if (goes(mode) && findings.everyRowOf(table.name()) && findings.selected() > 1) {
            return (mode == Mode.SOFT_DELETE ? "every active row of " : "every row of ") + table + ", all "
                    + rows(findings.selected());
        }
        String selected = request.selection() instanceof Selection.ByKeys
                        && request.narrowing().condition() == null
                ? ""
                : selected(request);
        return rows(findings.selected()) + " of " + table + (selected.isEmpty() ? "" : " " + selected);
    }

    /** By what rows were selected, to stand after the table's name: {@code where left_on < …}. */
    public static String selected(Request request) {
        return selected(request, LONGEST);
    }

    /** The same, however long it is. */
    public static String selectedWhole(Request request) {
        return selected(request, Integer.MAX_VALUE);
    }

    private static String selected(Request request, int longest) {
        Condition further = request.narrowing().condition();
        Condition condition = null;
        if (request.selection() instanceof Selection.ByCondition by) {
            condition = by.condition();
        } else if (request.selection() instanceof Selection.ByMatch match) {
            condition = match.condition();
        }
        if (further != null) {
            condition = condition == null ? further : condition.and(further);
        }
        if (request.selection() instanceof Selection.Orphans orphans) {
            String missing = "whose parent by " + orphans.relation() + " is missing";
            return condition == null ? missing : missing + ", where " + shortened(Written.of(condition), longest);
        }
        String where = condition == null ? "" : "where " + shortened(Written.of(condition), longest);
        if (request.narrowing().decided() != null) {
            where = where + (where.isEmpty() ? "" : " ") + "chosen by code";
        }
        Long first = request.narrowing().first();
        if (first == null) {
            return where;
        }
        String order = request.narrowing().order().isEmpty()
                ? "key"
                : request.narrowing().order().stream().map(Object::toString).collect(Collectors.joining(", "));
        return where + (where.isEmpty() ? "" : ", ") + "the first " + grouped(first) + " by " + order;
    }

    private static String shortened(String text, int longest) {
        String clean = text.replaceAll("\\p{Cntrl}", " ");
        return clean.length() <= longest ? clean : clean.substring(0, longest - 3) + "...";
    }

    private List<String> consequences(Request request, Table table, boolean everyRow, Mode mode, Findings findings) {
        List<String> sentences = new ArrayList<>();
        if (everyRow) {
            boolean said = request.selection() instanceof Selection.EveryRow
                    && request.narrowing().equals(Narrowing.NONE);
            String none = mode == Mode.SOFT_DELETE ? "none stays active." : "none stays.";
            sentences.add(
                    said
                            ? "Every row is meant, whatever a list or a filter showed before: " + none
                            : "The selection is every row of the table: " + none);
        }
        List<Effect> along = findings.effects().stream()
                .filter(effect -> effect.relation() != null && effect.goes())
                .toList();
        List<Effect> alike = along.stream()
                .filter(effect -> (effect.action() == Action.DELETE) == (mode == Mode.ERASE))
                .toList();
        List<Effect> erased = mode == Mode.ERASE
                ? List.of()
                : along.stream()
                        .filter(effect -> effect.action() == Action.DELETE)
                        .toList();
        boolean unlinked = request.selection() instanceof Selection.Orphans orphans && orphans.setNull();
        if (unlinked) {
            sentences.add("The rows stay; what they refer to now is lost.");
        } else if (along.isEmpty()) {
            sentences.add(
                    switch (mode) {
                        case ERASE -> "Nothing else goes with it.";
                        case SOFT_DELETE -> "Nothing else is marked with it.";
                        case RESTORE -> "Nothing else comes back with it.";
                        case REPLACE -> "What hangs on the row that ends stays with it.";
                        case PURGE -> "No row that is there changes.";
                    });
        }
        switch (mode) {
            case ERASE -> sum(alike, "goes with it", "go with it", sentences);
            case SOFT_DELETE -> sum(alike, "is marked with it", "are marked with it", sentences);
            case RESTORE -> sum(alike, "comes back with it", "come back with it", sentences);
            case PURGE -> sum(alike, "goes with it", "go with it", sentences);
            case REPLACE ->
                findings.effects().forEach(effect -> sentences.add("The successor has " + effect.becomes() + "."));
        }
        sum(
                erased,
                findings.kept() ? "is erased" : "is erased for good",
                findings.kept() ? "are erased" : "are erased for good",
                sentences);
        for (Effect effect : findings.effects()) {
            boolean one = effect.rows() == 1;
            String which = rows(effect.rows()) + " of " + effect.table();
            if (effect.action() == Action.SET_NULL && !unlinked) {
                sentences.add(which + (one ? " stays and loses its " : " stay and lose their ") + "link: "
                        + effect.relation() + " becomes NULL.");
            } else if (effect.action() == Action.RELINK) {
                sentences.add(which + (one ? " gets its" : " get their") + " link back: " + effect.relation()
                        + " holds again what it held before.");
            } else if (effect.action() == Action.REASSIGN) {
                sentences.add(which + (one ? " stays and gets" : " stay and get") + " another parent: "
                        + effect.relation() + " becomes " + effect.becomes() + ".");
            }
        }
        if (findings.spared().rows() > 0) {
            sentences.add(rows(findings.spared().rows()) + " that "
                    + (findings.spared().rows() == 1 ? "was" : "were")
                    + " selected as well " + (findings.spared().rows() == 1 ? "stays" : "stay")
                    + ", because something stands in the way.");
        }
        kept(request, table, mode, findings, sentences);
        if (mode == Mode.SOFT_DELETE) {
            sentences.add("What is marked stays in the database and can come back.");
        }
        visible(table, findings.visibility(), mode, sentences);
        findings.warnings().forEach(sentences::add);
        return sentences;
    }

    private void kept(Request request, Table table, Mode mode, Findings findings, List<String> sentences) {
        if (mode == Mode.PURGE) {
            sentences.add("Nothing of this can be brought back afterwards.");
        }
        boolean changes = findings.totals().containsKey(Action.DELETE)
                || findings.totals().containsKey(Action.SET_NULL)
                || findings.totals().containsKey(Action.REASSIGN);
        if (mode == Mode.PURGE || mode == Mode.RESTORE || !changes) {
            return;
        }
        if (!findings.kept()) {
            if (mode == Mode.ERASE
                    && !(request.selection() instanceof Selection.Orphans orphans && orphans.setNull())) {
                sentences.add("No copy is kept, so nothing of this can be brought back.");
            }
            return;
        }
        Period time = rules.retention(table.name()).images();
        sentences.add("Images are kept" + (time == null ? "" : " for " + written(time))
                + ", by which it can be brought back.");
        String without = findings.effects().stream()
                .map(Effect::table)
                .filter(name -> !rules.retention(name).kept())
                .distinct()
                .map(Object::toString)
                .collect(Collectors.joining(", "));
        if (!without.isEmpty()) {
            sentences.add("Of " + without + " no image is kept, as the rule book says.");
        }
    }

    /** "30 days", "7 years". */
    public static String written(Period time) {
        List<String> parts = new ArrayList<>();
        part(time.getYears(), "year", parts);
        part(time.getMonths(), "month", parts);
        part(time.getDays(), "day", parts);
        return parts.isEmpty() ? "no time" : String.join(" and ", parts);
    }

    private static void part(int number, String unit, List<String> parts) {
        if (number != 0) {
            parts.add(number + " " + unit + (number == 1 ? "" : "s"));
        }
    }

    /** "1 image", "12,000 images". */
    public static String images(long count) {
        return grouped(count) + (count == 1 ? " image" : " images");
    }

    private static void sum(List<Effect> effects, String one, String several, List<String> sentences) {
        if (effects.isEmpty()) {
            return;
        }
        Map<String, Long> byTable = new LinkedHashMap<>();
        effects.forEach(effect -> byTable.merge(effect.table().toString(), effect.rows(), Long::sum));
        long all = byTable.values().stream().mapToLong(Long::longValue).sum();
        sentences.add(rows(all) + " of " + (byTable.size() == 1 ? "one table" : byTable.size() + " tables") + " "
                + (all == 1 ? one : several) + ": "
                + byTable.entrySet().stream()
                        .map(entry -> grouped(entry.getValue()) + " " + entry.getKey())
                        .collect(Collectors.joining(", "))
                + ".");
    }

    /** People compare what they see with what is stored. */
    private static void visible(Table table, @Nullable Visibility seen, Mode mode, List<String> sentences) {
        if (seen == null) {
            return;
        }
        if (seen.leftOut() > 0) {
            sentences.add(rows(seen.leftOut()) + " that " + (seen.leftOut() == 1 ? "was" : "were")
                    + " selected as well "
                    + (seen.leftOut() == 1 ? "is " : "are ")
                    + (mode == Mode.RESTORE ? "not marked as deleted." : "marked as deleted already, and left out."));
        }
        sentences.add(active(table, seen));
    }

    /** "61 of 64 rows of boat are active, 58 of 64 afterwards". */
    public static String active(Table table, Visibility seen) {
        return grouped(seen.activeBefore()) + " of " + rows(seen.storedBefore()) + " of " + table
                + " are active now, " + grouped(seen.activeAfter()) + " of " + grouped(seen.storedAfter())
                + " afterwards.";
    }

    /** "1 row", "23 rows", "12,000 rows". */
    public static String rows(long count) {
        return grouped(count) + (count == 1 ? " row" : " rows");
    }

    /** "12,000". */
    public static String grouped(long count) {
        return String.format(Locale.ROOT, "%,d", count);
    }

    /** "12.5 per cent". */
    public static String percent(double percent) {
        return BigDecimal.valueOf(percent).stripTrailingZeros().toPlainString() + " per cent";
    }
}
