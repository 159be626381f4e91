// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.message;

import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.internal.text.VisibleText;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Retention;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.PlannedOperation;
import java.time.Period;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Puts impact into the sentences that a person is asked with. */
public final class Messages {

    private static final int LONGEST = 160;

    private final ResolvedRules rules;

    public Messages(ResolvedRules rules) {
        this.rules = rules;
    }

    /** The question for impact that could go ahead. */
    public Question ask(ResolvedRequest request, Impact impact) {
        // Whoever brings back all that was marked loses nothing.
        List<ResolvedRequest> emptied =
                request.each().stream().filter(each -> everyRow(each, impact)).toList();
        long many = Math.max(impact.going(), impact.selected());
        Strength strength = Strength.NONE;
        Table table = request.table();
        for (ResolvedRequest each : request.each()) {
            Strength own = rules.strength(each.table().name(), emptied.contains(each), many);
            if (own.compareTo(strength) > 0) {
                strength = own;
                table = each.table();
            }
        }
        if (request.operation() == OperationKind.DROP) {
            strength = Strength.TABLE;
        }
        boolean one = impact.records().size() == 1 && request.others().isEmpty();
        if (strength == Strength.LABEL && !one) {
            strength = Strength.COUNT;
        }
        String awaited =
                switch (strength) {
                    case NONE -> null;
                    case YES_NO -> "yes";
                    case COUNT -> Long.toString(many);
                    case LABEL -> rules.label(impact.records().get(0)).strip();
                    case TABLE -> column(request) == null ? table.toString() : table + "." + column(request);
                };
        return new Question(
                strength,
                title(request, impact) + "?",
                consequences(request, emptied, impact),
                awaited,
                impact.fingerprint());
    }

    private static boolean everyRow(ResolvedRequest request, Impact impact) {
        return request.operation().loses()
                && request.operation() != OperationKind.DROP
                && impact.everyRowOf(request.table().name());
    }

    /** What is to be done, in a few words: "Erase boat Osprey (HV-204)". */
    public String title(ResolvedRequest request, Impact impact) {
        StringBuilder title = new StringBuilder(titleAlone(request, impact));
        OperationKind said = request.operation();
        for (ResolvedRequest other : request.others()) {
            title.append(" and ");
            if (other.operation() != said) {
                title.append(other.operation() == OperationKind.SOFT_DELETE ? "mark as deleted " : "erase ");
            }
            said = other.operation();
            title.append(what(other, impact));
        }
        return title.toString();
    }

    private String titleAlone(ResolvedRequest request, Impact impact) {
        Table table = request.table();
        return switch (request.operation()) {
            case UNLINK_ORPHANS ->
                "Set " + relation(request) + " to NULL in " + CountText.rows(impact.selected()) + " of " + table
                        + ", whose parent is missing";
            case TRUNCATE -> "Empty table " + table + " at once, all " + CountText.rows(impact.selected());
            case DROP -> drop(request, impact);
            case ERASE -> "Erase " + what(request, impact);
            case SOFT_DELETE -> "Mark as deleted " + what(request, impact);
            case RESTORE -> "Restore " + what(request, impact);
            case REPLACE -> "Replace " + what(request, impact);
            case MERGE -> "Merge " + what(request, impact) + " into " + into(request);
            case BLANK -> "Blank " + what(request, impact);
            case FORGET -> "Forget " + what(request, impact);
            case PURGE -> "Purge " + what(request, impact);
        };
    }

    private static String drop(ResolvedRequest request, Impact impact) {
        String column = column(request);
        String rows = CountText.rows(impact.selected());
        return column == null
                ? "Drop table " + request.table() + " with " + (impact.selected() == 1 ? "its " : "all its ") + rows
                : "Drop column " + column + " of " + request.table() + ", which has a value in " + rows;
    }

    private static @Nullable String column(ResolvedRequest request) {
        return request.planned() instanceof PlannedOperation.Drop drop ? drop.column() : null;
    }

    private String into(ResolvedRequest request) {
        return request.merge() == null ? "" : rules.label(request.merge().into());
    }

    private static String relation(ResolvedRequest request) {
        return request.selection() instanceof Selection.Orphans orphans ? orphans.relation() : "";
    }

    /** No question, because there is nothing that a yes could do. */
    public Question none(String why, Impact impact) {
        return new Question(Strength.NONE, why, List.of(), null, impact.fingerprint());
    }

    /** The one row by its label, or the number of rows and by what they were selected. */
    private String what(ResolvedRequest request, Impact impact) {
        Table table = request.table();
        OperationKind mode = request.operation();
        if (mode == OperationKind.PURGE) {
            long tables =
                    impact.effects().stream().map(Effect::table).distinct().count();
            return CountText.archivedRows(impact.going()) + " of "
                    + (tables == 1 ? table.toString() : tables + " tables");
        }
        long selected = impact.selectedFrom().isEmpty() ? impact.selected() : impact.selectedOf(table.name());
        List<Row> records = impact.records().stream()
                .filter(row -> row.table().equals(table.name()))
                .toList();
        if (selected == 1 && records.size() == 1) {
            return table + " " + rules.label(records.get(0));
        }
        if (everyRow(request, impact) && selected > 1) {
            return (mode == OperationKind.SOFT_DELETE ? "every active row of " : "every row of ") + table + ", all "
                    + CountText.rows(selected);
        }
        String by = request.selection() instanceof Selection.ByKeys
                        && request.narrowing().condition() == null
                ? ""
                : selectedAlone(request);
        return CountText.rows(selected) + " of " + table + (by.isEmpty() ? "" : " " + by);
    }

    /** By what rows were selected, to stand after the table's name: {@code where left_on < …}. */
    public static String selected(ResolvedRequest request) {
        return selected(request, LONGEST);
    }

    /** The same without what else is selected. */
    public static String selectedAlone(ResolvedRequest request) {
        return selectedAlone(request, LONGEST);
    }

    /** The same, however long it is. */
    public static String selectedWhole(ResolvedRequest request) {
        return selected(request, Integer.MAX_VALUE);
    }

    private static String selected(ResolvedRequest request, int longest) {
        StringBuilder selected = new StringBuilder(selectedAlone(request, longest));
        for (ResolvedRequest other : request.others()) {
            String by = selectedAlone(other, longest);
            selected.append(selected.isEmpty() ? "and " : ", and ")
                    .append(other.table())
                    .append(by.isEmpty() ? "" : " " + by);
        }
        return selected.toString();
    }

    private static String selectedAlone(ResolvedRequest request, int longest) {
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
            return condition == null ? missing : missing + ", where " + shortened(ConditionText.of(condition), longest);
        }
        String where = condition == null ? "" : "where " + shortened(ConditionText.of(condition), longest);
        if (request.narrowing().filter() != null) {
            where = where + (where.isEmpty() ? "" : " ") + "chosen by code";
        }
        Long first = request.narrowing().first();
        if (first == null) {
            return where;
        }
        String order = request.narrowing().order().isEmpty()
                ? "key"
                : request.narrowing().order().stream().map(Object::toString).collect(Collectors.joining(", "));
        return where + (where.isEmpty() ? "" : ", ") + "the first " + CountText.grouped(first) + " by " + order;
    }

    private static String shortened(String text, int longest) {
        String clean = VisibleText.line(text);
        return clean.length() <= longest ? clean : clean.substring(0, longest - 3) + "...";
    }

    private List<String> consequences(ResolvedRequest request, List<ResolvedRequest> emptied, Impact impact) {
        Table table = request.table();
        OperationKind mode = request.operation();
        List<String> sentences = new ArrayList<>();
        for (ResolvedRequest each : emptied) {
            boolean said = each.selection() instanceof Selection.EveryRow
                    && each.narrowing().isEmpty();
            String none =
                    switch (each.operation()) {
                        case SOFT_DELETE -> "none stays active.";
                        case BLANK -> "none stays as it is.";
                        default -> "none stays.";
                    };
            String of = request.others().isEmpty() ? "" : " of " + each.table();
            sentences.add(
                    said
                            ? "Every row" + of + " is meant, whatever a list or a filter showed before: " + none
                            : "The selection is every row of " + (of.isEmpty() ? "the table" : each.table()) + ": "
                                    + none);
        }
        List<Effect> along = impact.effects().stream()
                .filter(effect -> effect.relation() != null && effect.goes())
                .toList();
        List<Effect> alike = along.stream()
                .filter(effect -> (effect.action() == Action.DELETE) == erases(mode))
                .toList();
        List<Effect> erased = erases(mode)
                ? List.of()
                : along.stream()
                        .filter(effect -> effect.action() == Action.DELETE)
                        .toList();
        boolean unlinked = mode == OperationKind.UNLINK_ORPHANS;
        if (mode == OperationKind.DROP) {
            sentences.add(
                    column(request) == null
                            ? "The table itself goes, and not only its rows."
                            : "The column itself goes; the rows stay without it.");
        } else if (mode == OperationKind.BLANK) {
            sentences.add(
                    impact.selected() == 1
                            ? "The row stays, and so do its links."
                            : "The rows stay, and so do their links.");
        } else if (mode == OperationKind.FORGET) {
            sentences.add(
                    impact.effects().get(0).action() == Action.DELETE
                            ? "The row itself will be erased."
                            : "The row itself stays, without what is personal in it.");
        } else if (along.isEmpty()) {
            sentences.add(
                    switch (mode) {
                        case UNLINK_ORPHANS -> "The rows stay; what they refer to now is lost.";
                        case ERASE, TRUNCATE, MERGE -> "Nothing else will be deleted.";
                        case SOFT_DELETE -> "Nothing else will be marked.";
                        case RESTORE -> "Nothing else will be restored.";
                        case REPLACE -> "What depends on the row that ends stays with it.";
                        case PURGE -> "No row that is there changes.";
                        case BLANK, FORGET, DROP -> "";
                    });
        }
        switch (mode) {
            case ERASE, TRUNCATE -> sum(alike, "deleted with it", sentences);
            case MERGE -> sum(along, "deleted, since the row that stays has them already", sentences);
            case SOFT_DELETE -> sum(alike, "marked with it", sentences);
            case RESTORE -> sum(alike, "restored with it", sentences);
            case PURGE -> sum(alike, "purged with it", sentences);
            case REPLACE ->
                impact.effects().forEach(effect -> sentences.add("The successor has " + effect.becomes() + "."));
            case UNLINK_ORPHANS, BLANK, FORGET, DROP -> {}
        }
        sum(erased, mode == OperationKind.FORGET ? "erased with it" : "erased", sentences);
        for (Effect effect : impact.effects()) {
            boolean one = effect.rows() == 1;
            String which = CountText.rows(effect.rows()) + " of " + effect.table();
            if (effect.action() == Action.SET_NULL && !unlinked) {
                sentences.add(which + (one ? " stays and loses its " : " stay and lose their ") + "link: "
                        + effect.relation() + " becomes NULL.");
            } else if (effect.action() == Action.RELINK) {
                sentences.add(which + (one ? " gets its" : " get their") + " link back: " + effect.relation()
                        + " holds again what it held before.");
            } else if (effect.action() == Action.BLANK) {
                sentences.add("In " + which + (one ? ", which stays: " : ", which stay: ") + effect.becomes() + ".");
            } else if (effect.action() == Action.KEEP) {
                sentences.add(which + (one ? " is" : " are") + " kept as " + (one ? "it is: " : "they are: ")
                        + effect.becomes() + ".");
            } else if (effect.action() == Action.PUT_BACK) {
                sentences.add(
                        which + (one ? " holds" : " hold") + " again what was blanked: " + effect.becomes() + ".");
            } else if (effect.action() == Action.REASSIGN) {
                sentences.add(which + (one ? " stays and gets" : " stay and get") + " another parent: "
                        + effect.relation() + " becomes " + effect.becomes() + ".");
            }
        }
        if (impact.skipped().rows() > 0) {
            sentences.add(CountText.rows(impact.skipped().rows()) + " that "
                    + (impact.skipped().rows() == 1 ? "was" : "were")
                    + " selected as well " + (impact.skipped().rows() == 1 ? "stays" : "stay")
                    + ", because "
                    + (impact.skipped().rows() == 1 ? "it is" : "they are") + " blocked.");
        }
        kept(table, mode, impact, sentences);
        if (request.each().stream().anyMatch(each -> each.operation() == OperationKind.SOFT_DELETE)) {
            sentences.add("What is marked stays in the database and can be restored.");
        }
        visible(table, impact.activeCounts(), mode, sentences);
        impact.warnings().forEach(sentences::add);
        return sentences;
    }

    private static boolean erases(OperationKind mode) {
        return mode == OperationKind.ERASE || mode == OperationKind.TRUNCATE || mode == OperationKind.MERGE;
    }

    private void kept(Table table, OperationKind mode, Impact impact, List<String> sentences) {
        if (mode == OperationKind.PURGE) {
            sentences.add("It cannot be restored afterwards.");
        }
        if (mode == OperationKind.DROP) {
            sentences.add(
                    impact.archived()
                            ? "What it holds and how it is defined are archived first; made again, it can be filled from"
                                    + " there."
                            : "No copy is archived, so what it holds cannot be restored.");
            return;
        }
        boolean changes = impact.totals().containsKey(Action.DELETE)
                || impact.totals().containsKey(Action.SET_NULL)
                || impact.totals().containsKey(Action.REASSIGN)
                || impact.totals().containsKey(Action.BLANK);
        if (mode == OperationKind.PURGE || mode == OperationKind.RESTORE || !changes) {
            return;
        }
        if (impact.savedTo() != null) {
            sentences.add("A copy is saved to " + impact.savedTo() + ", from which it can be restored.");
        }
        if (!impact.archived()) {
            boolean lost = erases(mode) || mode == OperationKind.BLANK || mode == OperationKind.FORGET;
            if (lost && impact.savedTo() == null) {
                sentences.add("No copy is archived, so it cannot be restored.");
            }
            return;
        }
        Period time = rules.retention(table.name()).images();
        sentences.add("A copy is archived" + (time == null ? "" : " for " + Retention.written(time))
                + ", from which it can be restored.");
        if (mode == OperationKind.FORGET) {
            sentences.add("What is personal is in that copy until it is purged.");
        }
        String without = impact.effects().stream()
                .map(Effect::table)
                .filter(name -> !rules.retention(name).kept())
                .distinct()
                .map(Object::toString)
                .collect(Collectors.joining(", "));
        if (!without.isEmpty()) {
            sentences.add("Rows of " + without + " are not archived, as the rule book says.");
        }
    }

    private static void sum(List<Effect> effects, String done, List<String> sentences) {
        if (effects.isEmpty()) {
            return;
        }
        Map<String, Long> byTable = new LinkedHashMap<>();
        effects.forEach(effect -> byTable.merge(effect.table().toString(), effect.rows(), Long::sum));
        long all = byTable.values().stream().mapToLong(Long::longValue).sum();
        sentences.add(
                CountText.rows(all) + " of " + (byTable.size() == 1 ? "one table" : byTable.size() + " tables") + " "
                        + "will be " + done + ": "
                        + byTable.entrySet().stream()
                                .map(entry -> CountText.grouped(entry.getValue()) + " " + entry.getKey())
                                .collect(Collectors.joining(", "))
                        + ".");
    }

    /** People compare what they see with what is stored. */
    private static void visible(Table table, @Nullable ActiveCounts seen, OperationKind mode, List<String> sentences) {
        if (seen == null) {
            return;
        }
        if (seen.leftOut() > 0) {
            sentences.add(CountText.rows(seen.leftOut()) + " that " + (seen.leftOut() == 1 ? "was" : "were")
                    + " selected as well "
                    + (seen.leftOut() == 1 ? "is " : "are ")
                    + (mode == OperationKind.RESTORE
                            ? "not marked as deleted."
                            : "marked as deleted already, and left out."));
        }
        sentences.add(seen.message(table.name()));
    }
}
