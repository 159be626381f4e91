// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.Retention;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.rules.RuleBook.RelationEntry;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a rule book writes of a relation: {@code cascade}, or rules in their order, some of them for soft deletes. */
final class RelationForm {

    private static final List<String> KEYS = List.of("rules", "soft-delete", "forget", "permit");
    private static final List<String> ACTIONS =
            List.of("cascade", "block", "set-null", "reassign", "blank", "leave", "erase", "keep");

    private RelationForm() {}

    static RelationEntry read(Yaml.Entry written) {
        Yaml value = written.value();
        boolean parted = value.isMapping() && KEYS.stream().anyMatch(key -> value.get(key) != null);
        if (!parted) {
            return new RelationEntry(written.key(), rules(value), List.of(), List.of(), List.of(), written.place());
        }
        value.onlyKeys(KEYS);
        Yaml rules = value.get("rules");
        Yaml soft = value.get("soft-delete");
        Yaml forget = value.get("forget");
        Yaml permit = value.get("permit");
        if (rules == null && ((soft == null && forget == null) || permit != null)) {
            throw value.wrong("Here the rules are wanted that hold unless a request asks for others.", null);
        }
        List<String> permits = permit == null
                ? List.of()
                : permit.items().stream().map(Yaml::text).toList();
        return new RelationEntry(
                written.key(),
                rules == null ? List.of() : rules(rules),
                soft == null ? List.of() : rules(soft),
                forget == null ? List.of() : rules(forget),
                permits,
                written.place());
    }

    static List<Rule> rules(Yaml written) {
        return written.items().stream().map(RelationForm::rule).toList();
    }

    /** {@code cascade}, or {@code {block: "unpaid", when: "paid IS NOT TRUE"}}. */
    private static Rule rule(Yaml written) {
        if (written.isText()) {
            return action(written, written.text(), null);
        }
        List<String> keys = written.keys();
        List<String> fates = keys.stream()
                .filter(key -> !key.equals("when") && !key.equals("until"))
                .toList();
        if (fates.size() != 1) {
            throw written.wrong(
                    "A rule says one of " + String.join(", ", ACTIONS) + ", and this says "
                            + (fates.isEmpty() ? "none." : String.join(" and ", fates) + "."),
                    null);
        }
        Rule rule = action(written, fates.get(0), written.get(fates.get(0)));
        Yaml until = written.get("until");
        if (until != null) {
            rule = until(until, rule, written);
        }
        Yaml when = written.get("when");
        if (when == null) {
            return rule;
        }
        return new Rule(rule.action(), when.as(SearchCondition::read));
    }

    /** {@code {keep: "tax law", until: {column: issued_on, plus: 10 years}}}. */
    private static Rule until(Yaml until, Rule rule, Yaml written) {
        if (!(rule.action() instanceof RuleAction.Keep keep)) {
            throw written.wrong("until is for keep.", null);
        }
        until.onlyKeys(List.of("column", "plus"));
        Yaml column = until.get("column");
        Yaml plus = until.get("plus");
        if (column == null || plus == null) {
            throw until.wrong(
                    "until requires a column that holds a date, and how long after it.",
                    "Write until: {column: issued_on, plus: 10 years}.");
        }
        return plus.as(time -> Rule.keep(keep.reason(), column.text(), Retention.period(time)));
    }

    private static Rule action(Yaml written, String word, @Nullable Yaml value) {
        return switch (word) {
            case "cascade" -> Rule.cascade();
            case "leave" -> Rule.leave();
            case "erase" -> Rule.erase();
            case "reassign" -> reassign(value);
            case "block" -> {
                if (value == null || !value.isText() || value.text().isBlank()) {
                    throw written.wrong(
                            "block requires a reason for the person who is told.", "Write {block: \"reason\"}.");
                }
                yield Rule.block(value.text());
            }
            case "keep" -> {
                if (value == null || !value.isText() || value.text().isBlank()) {
                    throw written.wrong(
                            "keep requires a reason for the person who is told.", "Write {keep: \"reason\"}.");
                }
                yield Rule.keep(value.text());
            }
            case "set-null" -> Rule.setNull(columns(value));
            case "blank" -> Rule.blank(columns(value));
            default -> throw written.unknown("rule", word, ACTIONS);
        };
    }

    private static String[] columns(@Nullable Yaml value) {
        return value == null
                ? new String[0]
                : value.items().stream().map(Yaml::text).toArray(String[]::new);
    }

    /** {@code reassign}, {@code {reassign: 3}}, or {@code {reassign: {to-parents: answers}}}. */
    private static Rule reassign(@Nullable Yaml value) {
        if (value == null || value.empty()) {
            return Rule.reassign();
        }
        if (!value.isMapping()) {
            return Rule.reassignTo(value.text());
        }
        value.onlyKeys(List.of("to-parents"));
        Yaml column = value.get("to-parents");
        if (column == null) {
            throw value.wrong("Here the column is wanted by which the parent names its own one.", null);
        }
        return Rule.reassignToParents(column.text());
    }
}
