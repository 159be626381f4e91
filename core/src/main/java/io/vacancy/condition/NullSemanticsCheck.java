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
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Finds conditions that a NULL slips past: it makes them unknown, which is not true, though whoever wrote
 * them meant yes or no. Each nullable column is taken to be NULL in turn, every other part to be anything,
 * and the condition is worked out over the sets of truth values that are possible then.
 */
public final class NullSemanticsCheck {

    private enum Truth {
        FALSE,
        UNKNOWN,
        TRUE
    }

    private final String column;

    private NullSemanticsCheck(String column) {
        this.column = column;
    }

    /** A nullable column of the table by whose NULL the condition may become unknown, or null if none is. */
    public static @Nullable String in(Condition condition, Table table) {
        Arguments.notNull(condition, "condition");
        Arguments.notNull(table, "table");
        for (Column column : table.columns()) {
            if (column.nullable()
                    && new NullSemanticsCheck(column.name()).possible(condition).contains(Truth.UNKNOWN)) {
                return column.name();
            }
        }
        return null;
    }

    private Set<Truth> possible(Condition condition) {
        if (condition instanceof Compare compare) {
            return comparison(compare.column().equals(column));
        }
        if (condition instanceof CompareColumns compare) {
            return comparison(compare.column().equals(column) || compare.other().equals(column));
        }
        if (condition instanceof OneOf oneOf) {
            return comparison(oneOf.column().equals(column));
        }
        if (condition instanceof Like like) {
            return comparison(like.column().equals(column));
        }
        if (condition instanceof CaseFolded cased) {
            return possible(cased.part());
        }
        if (condition instanceof Condition.Latest
                || condition instanceof Condition.Duplicate
                || condition instanceof Condition.Exists) {
            return EnumSet.of(Truth.TRUE, Truth.FALSE);
        }
        if (condition instanceof IsNull isNull) {
            return isNull.column().equals(column) ? EnumSet.of(Truth.TRUE) : EnumSet.of(Truth.TRUE, Truth.FALSE);
        }
        if (condition instanceof Is is) {
            return is.column().equals(column) ? EnumSet.of(Truth.FALSE) : EnumSet.of(Truth.TRUE, Truth.FALSE);
        }
        if (condition instanceof All all) {
            return together(all.parts(), Truth.TRUE, true);
        }
        if (condition instanceof Any any) {
            return together(any.parts(), Truth.FALSE, false);
        }
        Set<Truth> result = EnumSet.noneOf(Truth.class);
        if (condition instanceof Not not) {
            possible(not.part()).forEach(truth -> result.add(Truth.values()[2 - truth.ordinal()]));
        } else if (condition instanceof IsTrue certain) {
            possible(certain.part()).forEach(truth -> result.add(truth == Truth.TRUE ? Truth.TRUE : Truth.FALSE));
        }
        return result;
    }

    private static Set<Truth> comparison(boolean withNull) {
        return withNull ? EnumSet.of(Truth.UNKNOWN) : EnumSet.of(Truth.TRUE, Truth.FALSE);
    }

    /** In the order false, unknown, true, AND is the least and OR the greatest. */
    private Set<Truth> together(List<Condition> parts, Truth start, boolean least) {
        Set<Truth> result = EnumSet.of(start);
        for (Condition part : parts) {
            Set<Truth> next = EnumSet.noneOf(Truth.class);
            for (Truth left : result) {
                for (Truth right : possible(part)) {
                    next.add((left.compareTo(right) < 0) == least ? left : right);
                }
            }
            result = next;
        }
        return result;
    }
}
