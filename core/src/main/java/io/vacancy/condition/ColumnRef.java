// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.condition.Condition.Comparison;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Locale;

/**
 * The start of a condition in Java: {@code column("left_on").before(date)}. Values are read as the column's
 * type when the condition is used; null is refused, since no comparison with NULL is ever true.
 */
public final class ColumnRef {

    private final String name;

    private ColumnRef(String name) {
        this.name = name;
    }

    /** The column's name. */
    public String name() {
        return name;
    }

    /** A column of whichever table the condition is used on. */
    public static ColumnRef column(String name) {
        Arguments.notBlank(name, "name");
        return new ColumnRef(name);
    }

    public Condition equalTo(Object value) {
        return compare(Comparison.EQUAL, value);
    }

    public Condition notEqualTo(Object value) {
        return compare(Comparison.NOT_EQUAL, value);
    }

    public Condition lessThan(Object value) {
        return compare(Comparison.LESS, value);
    }

    public Condition atMost(Object value) {
        return compare(Comparison.AT_MOST, value);
    }

    public Condition greaterThan(Object value) {
        return compare(Comparison.GREATER, value);
    }

    public Condition atLeast(Object value) {
        return compare(Comparison.AT_LEAST, value);
    }

    /** Earlier than a date or a time. */
    public Condition before(Object time) {
        return compare(Comparison.LESS, time);
    }

    /** Later than a date or a time. */
    public Condition after(Object time) {
        return compare(Comparison.GREATER, time);
    }

    /** From one value to another, both included. */
    public Condition between(Object low, Object high) {
        return atLeast(low).and(atMost(high));
    }

    public Condition in(Object... values) {
        Arguments.noneNull(values, "values");
        return in(Arrays.asList(values));
    }

    public Condition in(Collection<?> values) {
        Arguments.noneNull(values, "values");
        values.forEach(this::given);
        return new Condition.OneOf(name, List.copyOf(values));
    }

    /** A text that matches a pattern of % and _. */
    public Condition like(String pattern) {
        return new Condition.Like(name, pattern);
    }

    public Condition isNull() {
        return new Condition.IsNull(name);
    }

    public Condition isNotNull() {
        return isNull().not();
    }

    /** A truth value that is this one; NULL is not. */
    public Condition is(boolean truth) {
        return new Condition.Is(name, truth);
    }

    /** A truth value that is not this one; NULL is not this one either. */
    public Condition isNot(boolean truth) {
        return is(truth).not();
    }

    /** A text that is this one, whatever letters are upper or lower case. */
    public Condition equalToInAnyCase(String text) {
        Arguments.notNull(text, "text");
        return new Condition.CaseFolded(
                Condition.LetterCase.LOWER, new Condition.Compare(name, Comparison.EQUAL, lower(text)));
    }

    private static String lower(String text) {
        return text.toLowerCase(Locale.ROOT);
    }

    private Condition compare(Comparison comparison, Object value) {
        return new Condition.Compare(name, comparison, given(value));
    }

    private Object given(Object value) {
        if (value == null) {
            throw new MisuseException(
                    "Column " + name + " is compared with NULL, which is never true.", "Use isNull() or isNotNull().");
        }
        return value;
    }
}
