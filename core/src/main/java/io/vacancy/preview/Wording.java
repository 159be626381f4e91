package io.vacancy.preview;

import io.vacancy.question.Question;
import io.vacancy.request.Mode;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Puts findings into the sentences that a person is asked with. */
public final class Wording {

    private final Rules rules;

    public Wording(Rules rules) {
        this.rules = rules;
    }

    /** The question for findings that could go ahead. */
    public Question ask(Table table, Mode mode, Findings findings) {
        return new Question(
                Question.Strength.YES_NO,
                title(table, mode, findings),
                consequences(table, mode, findings),
                "yes",
                findings.fingerprint());
    }

    /** No question, because there is nothing that a yes could do. */
    public Question none(String why, Findings findings) {
        return new Question(Question.Strength.NONE, why, List.of(), null, findings.fingerprint());
    }

    private String title(Table table, Mode mode, Findings findings) {
        String verb = mode == Mode.ERASE ? "Erase " : "Mark as deleted: ";
        return verb + what(table, findings) + "?";
    }

    /** The one row by its label, or the number of rows. */
    public String what(Table table, Findings findings) {
        List<Row> records = findings.records();
        return findings.selected() == 1 && records.size() == 1
                ? table + " " + rules.label(records.get(0))
                : rows(findings.selected()) + " of " + table;
    }

    private static List<String> consequences(Table table, Mode mode, Findings findings) {
        List<String> sentences = new ArrayList<>();
        List<Effect> along = findings.effects().stream()
                .filter(effect -> effect.relation() != null && gone(effect.action()))
                .toList();
        if (along.isEmpty()) {
            sentences.add("Nothing else goes with it.");
        } else {
            Map<String, Long> byTable = new LinkedHashMap<>();
            along.forEach(effect -> byTable.merge(effect.table().toString(), effect.rows(), Long::sum));
            long all = byTable.values().stream().mapToLong(Long::longValue).sum();
            sentences.add(rows(all) + " of " + (byTable.size() == 1 ? "one table" : byTable.size() + " tables")
                    + (all == 1 ? " goes" : " go") + " with it: "
                    + byTable.entrySet().stream()
                            .map(entry -> grouped(entry.getValue()) + " " + entry.getKey())
                            .collect(Collectors.joining(", "))
                    + ".");
        }
        for (Effect effect : findings.effects()) {
            if (effect.action() == Action.SET_NULL) {
                sentences.add(rows(effect.rows()) + " of " + effect.table()
                        + (effect.rows() == 1 ? " stays and loses its " : " stay and lose their ")
                        + "link: " + effect.relation() + " becomes NULL.");
            }
        }
        if (mode == Mode.ERASE) {
            sentences.add("No copy is kept, so nothing of this can be brought back.");
        }
        findings.warnings().forEach(sentences::add);
        return sentences;
    }

    private static boolean gone(Action action) {
        return action == Action.DELETE || action == Action.SOFT_DELETE;
    }

    /** "1 row", "23 rows", "12,000 rows". */
    public static String rows(long count) {
        return grouped(count) + (count == 1 ? " row" : " rows");
    }

    private static String grouped(long count) {
        return String.format(java.util.Locale.ROOT, "%,d", count);
    }
}
