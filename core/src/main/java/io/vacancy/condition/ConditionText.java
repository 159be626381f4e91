// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.condition.Condition.All;
import io.vacancy.condition.Condition.Any;
import io.vacancy.condition.Condition.CaseFolded;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.CompareColumns;
import io.vacancy.condition.Condition.Is;
import io.vacancy.condition.Condition.IsNull;
import io.vacancy.condition.Condition.IsTrue;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.Not;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.internal.argument.Arguments;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** Conditions as people read them: as the SQL standard's search conditions. Never sent to a database. */
public final class ConditionText {

    /** Words that a reader of search conditions takes for itself; a column of such a name is put into quotation marks. */
    public static final Set<String> WORDS = Set.of(
            "and",
            "or",
            "not",
            "in",
            "is",
            "null",
            "like",
            "between",
            "true",
            "false",
            "escape",
            "interval",
            "current_date",
            "current_timestamp",
            "current_time",
            "select",
            "from",
            "where",
            "exists",
            "case",
            "when",
            "then",
            "else",
            "end",
            "union",
            "ilike",
            "similar",
            "rlike",
            "regexp",
            "cast",
            "with",
            "any",
            "all",
            "some",
            "delete",
            "update",
            "insert",
            "distinct",
            "collate",
            "unknown",
            "over");

    private ConditionText() {}

    /** The condition as a search condition. */
    public static String of(Condition condition) {
        Arguments.notNull(condition, "condition");
        if (condition instanceof CaseFolded cased) {
            return of(cased.part(), cased.letters().name());
        }
        if (condition instanceof CompareColumns compare) {
            return name(compare.column()) + " " + compare.comparison().sign() + " " + name(compare.other());
        }
        if (condition instanceof Condition.Latest latest) {
            return "the latest of " + String.join(", ", latest.of()) + " by " + latest.start();
        }
        if (condition instanceof Condition.Refers refers) {
            return "the " + refers.parent() + " of " + refers.relation() + " has " + of(refers.which());
        }
        if (condition instanceof IsNull isNull) {
            return name(isNull.column()) + " IS NULL";
        }
        if (condition instanceof Is is) {
            return name(is.column()) + " IS " + (is.truth() ? "TRUE" : "FALSE");
        }
        if (condition instanceof All all) {
            return joined(all.parts(), " AND ");
        }
        if (condition instanceof Any any) {
            return joined(any.parts(), " OR ");
        }
        if (condition instanceof Not not) {
            return not.part() instanceof IsNull isNull
                    ? name(isNull.column()) + " IS NOT NULL"
                    : "NOT (" + of(not.part()) + ")";
        }
        return condition instanceof IsTrue certain ? "(" + of(certain.part()) + ") IS TRUE" : of(condition, "");
    }

    private static String of(Condition condition, String letters) {
        if (condition instanceof Compare compare) {
            return name(compare.column(), letters) + " " + compare.comparison().sign() + " " + value(compare.value());
        }
        if (condition instanceof OneOf oneOf) {
            return name(oneOf.column(), letters) + " IN ("
                    + oneOf.values().stream().map(ConditionText::value).collect(Collectors.joining(", ")) + ")";
        }
        Like like = (Like) condition;
        String escape = like.pattern().contains("\\") ? " ESCAPE '\\'" : "";
        return name(like.column(), letters) + " LIKE " + value(like.pattern()) + escape;
    }

    private static String joined(List<Condition> parts, String word) {
        if (parts.isEmpty()) {
            return word.equals(" AND ") ? "TRUE" : "FALSE";
        }
        return parts.stream()
                .map(part -> (part instanceof All || part instanceof Any) && parts.size() > 1
                        ? "(" + of(part) + ")"
                        : of(part))
                .collect(Collectors.joining(word));
    }

    private static String name(String column, String letters) {
        return letters.isEmpty() ? name(column) : letters + "(" + name(column) + ")";
    }

    private static String name(String column) {
        return column.matches("[A-Za-z_][A-Za-z0-9_]*") && !WORDS.contains(column.toLowerCase(Locale.ROOT))
                ? column
                : "\"" + column.replace("\"", "\"\"") + "\"";
    }

    private static String value(Object value) {
        if (value instanceof Number || value instanceof Parameter || value instanceof RelativeTime) {
            return value.toString();
        }
        if (value instanceof Boolean truth) {
            return truth ? "TRUE" : "FALSE";
        }
        String text = "'" + value.toString().replace("'", "''") + "'";
        if (value instanceof LocalDate) {
            return "DATE " + text;
        }
        if (value instanceof LocalTime) {
            return "TIME " + text;
        }
        return value instanceof LocalDateTime ? "TIMESTAMP " + text.replace('T', ' ') : text;
    }
}
