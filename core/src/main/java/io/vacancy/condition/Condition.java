// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * A boolean expression over one table's columns and the existence of related rows, with the three truth values of SQL: a comparison with NULL
 * is unknown, and unknown is not true. Values are bound, never written into SQL; the database decides
 * equality and order. Immutable.
 */
public sealed interface Condition {

    /** The most values that one condition may list. */
    int MOST_LISTED = 10_000;

    /** How many relations a condition may follow from a row, one behind the other. */
    int FARTHEST_RELATED = 10;

    /** How a column is compared with a value. */
    enum Comparison {
        EQUAL("="),
        NOT_EQUAL("<>"),
        LESS("<"),
        AT_MOST("<="),
        GREATER(">"),
        AT_LEAST(">=");

        private final String sign;

        Comparison(String sign) {
            this.sign = sign;
        }

        /** The sign in SQL. */
        public String sign() {
            return sign;
        }
    }

    /** A column against a value; unknown where the column is NULL. */
    record Compare(String column, Comparison comparison, Object value) implements Condition {
        public Compare {
            Arguments.notBlank(column, "column");
            Arguments.notNull(comparison, "comparison");
            Arguments.notNull(value, "value");
        }
    }

    /** A column against another column of the same row. */
    record CompareColumns(String column, Comparison comparison, String other) implements Condition {
        public CompareColumns {
            Arguments.notBlank(column, "column");
            Arguments.notNull(comparison, "comparison");
            Arguments.notBlank(other, "other");
        }
    }

    /**
     * A row is the current one of several versions: that with the latest start not after now.
     *
     * @param of the columns in which versions of one thing agree
     * @param start the column from when a version holds, a date or a time
     */
    record Latest(List<String> of, String start) implements Condition {
        public Latest {
            Arguments.notBlank(start, "start");
            of = List.copyOf(Arguments.noneNull(of, "of"));
        }
    }

    /**
     * Another row of the same table has these values, and the same as this one in some columns; never unknown.
     *
     * @param values by column, at least one
     * @param same columns in which a NULL agrees with nothing
     */
    record Duplicate(Map<String, Object> values, List<String> same) implements Condition {
        public Duplicate {
            values = Map.copyOf(Arguments.named(values, "values"));
            same = List.copyOf(Arguments.noneNull(same, "same"));
            if (values.isEmpty()) {
                throw new MisuseException("A duplicate has values of its own.", "Give at least one.");
            }
        }
    }

    /**
     * There is a row that a relation connects with this one, and for which a condition on its own table is true; never
     * unknown.
     *
     * @param which null where any such row will do
     */
    record Exists(RelatedRows related, @Nullable Condition which) implements Condition {
        public Exists {
            Arguments.notNull(related, "related");
        }
    }

    /** A column's value is one of several; never true for none. */
    record OneOf(String column, List<Object> values) implements Condition {
        public OneOf {
            Arguments.notBlank(column, "column");
            values = List.copyOf(Arguments.noneNull(values, "values"));
        }
    }

    /** A text matches a pattern in which % stands for any text and _ for any character; \ takes that from them. */
    record Like(String column, String pattern) implements Condition {
        public Like {
            Arguments.notBlank(column, "column");
            Arguments.notNull(pattern, "pattern");
        }
    }

    /** A column is NULL. */
    record IsNull(String column) implements Condition {
        public IsNull {
            Arguments.notBlank(column, "column");
        }
    }

    /** A truth-value column is true, or is false; NULL is neither, so this is never unknown. */
    record Is(String column, boolean truth) implements Condition {
        public Is {
            Arguments.notBlank(column, "column");
        }
    }

    /**
     * A comparison of a text column in lower or upper case.
     *
     * @param part a comparison, a list of values or a pattern
     */
    record CaseFolded(LetterCase letters, Condition part) implements Condition {
        public CaseFolded {
            Arguments.notNull(letters, "letters");
            Arguments.notNull(part, "part");
        }
    }

    /** The letters that a text is compared in. */
    enum LetterCase {
        LOWER,
        UPPER
    }

    /**
     * All hold.
     *
     * @param parts at least one, since all of none would be every row
     */
    record All(List<Condition> parts) implements Condition {
        public All {
            parts = List.copyOf(Arguments.noneNull(parts, "parts"));
            if (parts.isEmpty()) {
                throw new MisuseException(
                        "A conjunction of no conditions would hold for every row.",
                        "Give at least one condition, or select every row in so many words.");
            }
        }
    }

    /**
     * At least one holds.
     *
     * @param parts at least one
     */
    record Any(List<Condition> parts) implements Condition {
        public Any {
            parts = List.copyOf(Arguments.noneNull(parts, "parts"));
            if (parts.isEmpty()) {
                throw new MisuseException("A disjunction of no conditions holds for no row.", "Give at least one.");
            }
        }
    }

    /** The opposite; unknown where the part is. */
    record Not(Condition part) implements Condition {
        public Not {
            Arguments.notNull(part, "condition");
        }
    }

    /** True where the part is true and false where it is false or unknown. */
    record IsTrue(Condition part) implements Condition {
        public IsTrue {
            Arguments.notNull(part, "condition");
        }
    }

    /** This and another. */
    default Condition and(Condition other) {
        return new All(joined(this instanceof All all ? all.parts() : List.of(this), other));
    }

    /** This or another. */
    default Condition or(Condition other) {
        return new Any(joined(this instanceof Any any ? any.parts() : List.of(this), other));
    }

    /** Flat, so that a thousand of them are no deeper than two. */
    private static List<Condition> joined(List<Condition> parts, Condition other) {
        List<Condition> all = new ArrayList<>(parts);
        all.add(other);
        return all;
    }

    /** The opposite of this. */
    default Condition not() {
        return new Not(this);
    }

    /**
     * This condition with the table's spelling of column names and with values of its columns' types.
     *
     * Parameters and moments stay as they are.
     *
     * @throws MisuseException if a column is not in the table, a value cannot be one of its column's, or the condition
     *     looks at related rows of which nothing is known yet
     */
    default Condition readFor(Table table) {
        Arguments.notNull(table, "table");
        return new ConditionReader(table, null, 0).read(this);
    }

    /**
     * The same, with related rows by the relations of a schema.
     *
     * @throws MisuseException also if there is no such relation
     */
    default Condition readFor(Table table, Schema schema) {
        Arguments.notNull(table, "table");
        Arguments.notNull(schema, "schema");
        return new ConditionReader(table, schema, 0).read(this);
    }

    /**
     * This condition with what must hold besides for the related rows that it looks at, wherever it does.
     *
     * @param also what must be true of the rows of a table, or null; called for related rows that are resolved only
     */
    default Condition restrictRelated(Function<Table, @Nullable Condition> also) {
        Arguments.notNull(also, "also");
        if (!(this instanceof Exists exists)) {
            return replaceParts(part -> part.restrictRelated(also));
        }
        Condition which = exists.which() == null ? null : exists.which().restrictRelated(also);
        Condition more =
                exists.related() instanceof RelatedRows.Resolved resolved ? also.apply(resolved.table()) : null;
        return new Exists(exists.related(), which == null ? more : more == null ? which : which.and(more));
    }

    /** The names of the parameters that stand in this condition, in their order. */
    default Set<String> parameters() {
        Set<String> names = new LinkedHashSet<>();
        replaceValues(value -> {
            if (value instanceof Parameter parameter) {
                names.add(parameter.name());
            }
            return value;
        });
        return names;
    }

    /** This condition with other values in the place of its own. */
    default Condition replaceValues(UnaryOperator<Object> change) {
        Arguments.notNull(change, "change");
        if (this instanceof Compare compare) {
            return new Compare(compare.column(), compare.comparison(), change.apply(compare.value()));
        }
        if (this instanceof OneOf oneOf) {
            return new OneOf(oneOf.column(), oneOf.values().stream().map(change).toList());
        }
        return replaceParts(part -> part.replaceValues(change));
    }

    /** This condition with other columns in the place of those that it names, for names that are not the table's own. */
    default Condition replaceColumns(UnaryOperator<String> change) {
        Arguments.notNull(change, "change");
        if (this instanceof Compare compare) {
            return new Compare(change.apply(compare.column()), compare.comparison(), compare.value());
        }
        if (this instanceof CompareColumns compare) {
            return new CompareColumns(
                    change.apply(compare.column()), compare.comparison(), change.apply(compare.other()));
        }
        if (this instanceof OneOf oneOf) {
            return new OneOf(change.apply(oneOf.column()), oneOf.values());
        }
        if (this instanceof Like like) {
            return new Like(change.apply(like.column()), like.pattern());
        }
        if (this instanceof IsNull isNull) {
            return new IsNull(change.apply(isNull.column()));
        }
        if (this instanceof Is is) {
            return new Is(change.apply(is.column()), is.truth());
        }
        if (this instanceof Latest latest) {
            return new Latest(latest.of().stream().map(change).toList(), change.apply(latest.start()));
        }
        if (this instanceof Duplicate duplicate) {
            Map<String, Object> values = new HashMap<>();
            duplicate.values().forEach((column, value) -> values.put(change.apply(column), value));
            return new Duplicate(values, duplicate.same().stream().map(change).toList());
        }
        // The columns of related rows are another table's.
        return this instanceof Exists ? this : replaceParts(part -> part.replaceColumns(change));
    }

    /** This condition with its direct parts replaced, that of an {@link Exists} too; itself where it has none. */
    default Condition replaceParts(UnaryOperator<Condition> change) {
        Arguments.notNull(change, "change");
        if (this instanceof All all) {
            return new All(all.parts().stream().map(change).toList());
        }
        if (this instanceof Any any) {
            return new Any(any.parts().stream().map(change).toList());
        }
        if (this instanceof Not not) {
            return new Not(change.apply(not.part()));
        }
        if (this instanceof CaseFolded cased) {
            return new CaseFolded(cased.letters(), change.apply(cased.part()));
        }
        if (this instanceof Exists exists) {
            return exists.which() == null ? this : new Exists(exists.related(), change.apply(exists.which()));
        }
        return this instanceof IsTrue certain ? new IsTrue(change.apply(certain.part())) : this;
    }
}
