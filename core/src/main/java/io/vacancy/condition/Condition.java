package io.vacancy.condition;

import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * A boolean expression over one table's columns, with the three truth values of SQL: a comparison with NULL
 * is unknown, and unknown is not true. Values are bound, never written into SQL; the database decides
 * equality and order. Immutable.
 */
public sealed interface Condition {

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
    record Compare(String column, Comparison comparison, Object value) implements Condition {}

    /** A column against another column of the same row. */
    record CompareColumns(String column, Comparison comparison, String other) implements Condition {}

    /** A column's value is one of several; never true for none. */
    record OneOf(String column, List<Object> values) implements Condition {
        public OneOf {
            values = List.copyOf(values);
        }
    }

    /** A text matches a pattern in which % stands for any text and _ for any character; \ takes that from them. */
    record Like(String column, String pattern) implements Condition {}

    /** A column is NULL. */
    record IsNull(String column) implements Condition {}

    /** A truth-value column is true, or is false; NULL is neither, so this is never unknown. */
    record Is(String column, boolean truth) implements Condition {}

    /** All hold; true for none. */
    record All(List<Condition> parts) implements Condition {
        public All {
            parts = List.copyOf(parts);
        }
    }

    /** At least one holds; false for none. */
    record Any(List<Condition> parts) implements Condition {
        public Any {
            parts = List.copyOf(parts);
        }
    }

    /** The opposite; unknown where the part is. */
    record Not(Condition part) implements Condition {}

    /** True where the part is true and false where it is false or unknown. */
    record Certain(Condition part) implements Condition {}

    /** This and another. */
    default Condition and(Condition other) {
        return new All(List.of(this, other));
    }

    /** This or another. */
    default Condition or(Condition other) {
        return new Any(List.of(this, other));
    }

    /** The opposite of this. */
    default Condition not() {
        return new Not(this);
    }

    /**
     * This condition with the table's spelling of column names and with values of its columns' types.
     *
     * @throws MisuseException if a column is not in the table, or a value cannot be one of its column's
     */
    default Condition readFor(Table table) {
        if (this instanceof Compare compare) {
            Column column = table.column(compare.column());
            return new Compare(column.name(), compare.comparison(), column.read(compare.value(), table.name()));
        }
        if (this instanceof CompareColumns compare) {
            Column column = table.column(compare.column());
            Column other = table.column(compare.other());
            if (column.type().kind() != other.type().kind()) {
                throw new MisuseException("Columns " + column.name() + " and " + other.name() + " of " + table
                        + " hold different kinds of value, so they cannot be compared.");
            }
            return new CompareColumns(column.name(), compare.comparison(), other.name());
        }
        if (this instanceof OneOf oneOf) {
            Column column = table.column(oneOf.column());
            List<Object> values = new ArrayList<>();
            oneOf.values().forEach(value -> values.add(column.read(value, table.name())));
            return new OneOf(column.name(), values);
        }
        if (this instanceof Like like) {
            Column column = table.column(like.column());
            if (column.type().kind() != ValueKind.TEXT) {
                throw new MisuseException("Column " + column.name() + " of " + table + " holds "
                        + column.type().declared() + ", and LIKE is for text.");
            }
            return new Like(column.name(), like.pattern());
        }
        if (this instanceof IsNull isNull) {
            return new IsNull(table.column(isNull.column()).name());
        }
        if (this instanceof Is is) {
            Column column = table.column(is.column());
            if (column.type().kind() != ValueKind.BOOLEAN) {
                throw new MisuseException(
                        "Column " + column.name() + " of " + table + " holds "
                                + column.type().declared() + ", no truth value, so it is neither TRUE nor FALSE.",
                        "Compare it with the values that it holds.");
            }
            return new Is(column.name(), is.truth());
        }
        return parts(part -> part.readFor(table));
    }

    /** This condition with its direct parts replaced; itself where it has none. */
    private Condition parts(UnaryOperator<Condition> change) {
        if (this instanceof All all) {
            return new All(all.parts().stream().map(change).toList());
        }
        if (this instanceof Any any) {
            return new Any(any.parts().stream().map(change).toList());
        }
        if (this instanceof Not not) {
            return new Not(change.apply(not.part()));
        }
        return this instanceof Certain certain ? new Certain(change.apply(certain.part())) : this;
    }
}
