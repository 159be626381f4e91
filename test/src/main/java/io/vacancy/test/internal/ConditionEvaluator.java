// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.condition.Condition;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelativeTime;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Conditions on rows in memory, with the three truth values of SQL; null is unknown. */
record ConditionEvaluator(Table table, MemoryRows rows, ZonedDateTime now) {

    boolean holds(@Nullable Condition condition, Row row) {
        return condition == null || Boolean.TRUE.equals(value(condition.readFor(table), row, UnaryOperator.identity()));
    }

    private @Nullable Boolean value(Condition condition, Row row, UnaryOperator<@Nullable Object> cased) {
        if (condition instanceof Condition.All all) {
            return each(all.parts(), row, cased, false);
        }
        if (condition instanceof Condition.Any any) {
            return each(any.parts(), row, cased, true);
        }
        if (condition instanceof Condition.Not not) {
            Boolean part = value(not.part(), row, cased);
            return part == null ? null : (Boolean) !part;
        }
        if (condition instanceof Condition.IsTrue certain) {
            return Boolean.TRUE.equals(value(certain.part(), row, cased));
        }
        if (condition instanceof Condition.CaseFolded folded) {
            return value(folded.part(), row, text -> text == null ? null : folded(folded, text.toString()));
        }
        return leaf(condition, row, cased);
    }

    private static String folded(Condition.CaseFolded folded, String text) {
        return folded.letters() == Condition.LetterCase.LOWER
                ? text.toLowerCase(Locale.ROOT)
                : text.toUpperCase(Locale.ROOT);
    }

    /** A conjunction is decided by what is false, a disjunction by what is true; else one unknown part is enough. */
    private @Nullable Boolean each(
            List<Condition> parts, Row row, UnaryOperator<@Nullable Object> cased, boolean deciding) {
        boolean unknown = false;
        for (Condition part : parts) {
            Boolean value = value(part, row, cased);
            if (value == null) {
                unknown = true;
            } else if (value == deciding) {
                return deciding;
            }
        }
        return unknown ? null : (Boolean) !deciding;
    }

    private @Nullable Boolean leaf(Condition condition, Row row, UnaryOperator<@Nullable Object> cased) {
        if (condition instanceof Condition.IsNull isNull) {
            return row.get(isNull.column()) == null;
        }
        if (condition instanceof Condition.Is is) {
            return Objects.equals(row.get(is.column()), is.truth());
        }
        if (condition instanceof Condition.Compare compare) {
            Object value = compare.value() instanceof RelativeTime time
                    ? time.at(now, table.column(compare.column()).type().kind())
                    : compare.value();
            return compared(cased.apply(row.get(compare.column())), compare.comparison(), value);
        }
        if (condition instanceof Condition.CompareColumns compare) {
            return compared(row.get(compare.column()), compare.comparison(), row.get(compare.other()));
        }
        if (condition instanceof Condition.OneOf oneOf) {
            Object value = cased.apply(row.get(oneOf.column()));
            return value == null ? null : (Boolean) oneOf.values().contains(value);
        }
        if (condition instanceof Condition.Like like) {
            Object value = cased.apply(row.get(like.column()));
            return value == null
                    ? null
                    : (Boolean)
                            pattern(like.pattern()).matcher(value.toString()).matches();
        }
        if (condition instanceof Condition.Duplicate duplicate) {
            return rows.all(table.name()).stream()
                    .filter(other -> !rows.key(other).equals(rows.key(row)))
                    .filter(other -> duplicate.values().entrySet().stream()
                            .allMatch(value -> value.getValue().equals(other.get(value.getKey()))))
                    .anyMatch(other -> duplicate.same().stream()
                            .allMatch(column ->
                                    row.get(column) != null && Objects.equals(other.get(column), row.get(column))));
        }
        if (condition instanceof Condition.Exists exists) {
            RelatedRows.Resolved related = (RelatedRows.Resolved) exists.related();
            ConditionEvaluator inside = new ConditionEvaluator(related.table(), rows, now);
            return rows.all(related.table().name()).stream()
                    .filter(other -> related.side() == RelatedRows.Side.CHILDREN
                            ? MemoryRows.joined(row, other, related.relation())
                            : MemoryRows.joined(other, row, related.relation()))
                    .anyMatch(other -> inside.holds(exists.which(), other));
        }
        Condition.Latest latest = (Condition.Latest) condition;
        return rows.all(table.name()).stream()
                .filter(other ->
                        latest.of().stream().allMatch(column -> Objects.equals(other.get(column), row.get(column))))
                .noneMatch(other -> Boolean.TRUE.equals(
                        compared(other.get(latest.start()), Condition.Comparison.GREATER, row.get(latest.start()))));
    }

    @SuppressWarnings({"unchecked", "rawtypes"})
    private static @Nullable Boolean compared(
            @Nullable Object left, Condition.Comparison comparison, @Nullable Object right) {
        if (left == null || right == null) {
            return null;
        }
        int order = ((Comparable) left).compareTo(right);
        return switch (comparison) {
            case EQUAL -> order == 0;
            case NOT_EQUAL -> order != 0;
            case LESS -> order < 0;
            case AT_MOST -> order <= 0;
            case GREATER -> order > 0;
            case AT_LEAST -> order >= 0;
        };
    }

    private static Pattern pattern(String like) {
        StringBuilder regex = new StringBuilder();
        for (int i = 0; i < like.length(); i++) {
            char letter = like.charAt(i);
            if (letter == '\\' && i + 1 < like.length()) {
                i++;
                regex.append(Pattern.quote(String.valueOf(like.charAt(i))));
            } else {
                regex.append(letter == '%' ? ".*" : letter == '_' ? "." : Pattern.quote(String.valueOf(letter)));
            }
        }
        return Pattern.compile(regex.toString(), Pattern.DOTALL);
    }
}
