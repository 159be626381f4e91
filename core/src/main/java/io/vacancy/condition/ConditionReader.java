// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.condition.Condition.CaseFolded;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.CompareColumns;
import io.vacancy.condition.Condition.Exists;
import io.vacancy.condition.Condition.Is;
import io.vacancy.condition.Condition.IsNull;
import io.vacancy.condition.Condition.Latest;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Reads conditions against a table: its spelling of columns, values of their types.
 *
 * @param schema by which related rows are found; null where none may be looked at
 * @param followed how many relations lead to the table from that of the whole condition
 */
record ConditionReader(Table table, @Nullable Schema schema, int followed) {

    Condition read(Condition condition) {
        if (condition instanceof Compare compare) {
            Column column = table.column(compare.column());
            return new Compare(column.name(), compare.comparison(), value(compare.value(), column));
        }
        if (condition instanceof CompareColumns compare) {
            Column column = table.column(compare.column());
            Column other = table.column(compare.other());
            if (column.type().kind() != other.type().kind()) {
                throw new MisuseException("Columns " + column.name() + " and " + other.name() + " of " + table
                        + " hold different kinds of value, so they cannot be compared.");
            }
            return new CompareColumns(column.name(), compare.comparison(), other.name());
        }
        if (condition instanceof OneOf oneOf) {
            Column column = table.column(oneOf.column());
            if (oneOf.values().size() > Condition.MOST_LISTED) {
                throw new MisuseException(
                        "A condition lists " + oneOf.values().size() + " values of " + column.name() + "; "
                                + Condition.MOST_LISTED + " are the most.",
                        "Give many rows by their keys, as a list or a file.");
            }
            List<Object> values = new ArrayList<>();
            oneOf.values().forEach(value -> values.add(value(value, column)));
            return new OneOf(column.name(), values);
        }
        if (condition instanceof Like like) {
            Column column = table.column(like.column());
            if (column.type().kind() != ValueKind.TEXT) {
                throw new MisuseException("Column " + column.name() + " of " + table + " holds "
                        + column.type().declared() + ", and LIKE is for text.");
            }
            return new Like(column.name(), like.pattern());
        }
        if (condition instanceof Latest latest) {
            Column start = table.column(latest.start());
            RelativeTime.checkTime(start, table);
            List<String> of =
                    latest.of().stream().map(name -> table.column(name).name()).toList();
            return new Latest(of, start.name());
        }
        if (condition instanceof Condition.Duplicate duplicate) {
            Map<String, Object> values = new HashMap<>();
            duplicate.values().forEach((name, value) -> {
                Column column = table.column(name);
                values.put(column.name(), value(value, column));
            });
            return new Condition.Duplicate(
                    values,
                    duplicate.same().stream()
                            .map(name -> table.column(name).name())
                            .toList());
        }
        if (condition instanceof Exists exists) {
            if (followed == Condition.FARTHEST_RELATED) {
                throw new MisuseException(
                        "A condition follows more than " + Condition.FARTHEST_RELATED
                                + " relations, one behind the other.",
                        "Select by rows that are nearer.");
            }
            RelatedRows.Resolved related = related(exists.related());
            Condition which = exists.which();
            return new Exists(
                    related,
                    which == null ? null : new ConditionReader(related.table(), schema, followed + 1).read(which));
        }
        if (condition instanceof IsNull isNull) {
            return new IsNull(table.column(isNull.column()).name());
        }
        if (condition instanceof Is is) {
            Column column = table.column(is.column());
            if (column.type().kind() != ValueKind.BOOLEAN) {
                throw new MisuseException(
                        "Column " + column.name() + " of " + table + " holds "
                                + column.type().declared() + ", no truth value, so it is neither TRUE nor FALSE.",
                        "Compare it with the values that it holds.");
            }
            return new Is(column.name(), is.truth());
        }
        if (condition instanceof CaseFolded cased) {
            Column column = table.column(columnOf(cased.part()));
            if (column.type().kind() != ValueKind.TEXT) {
                throw new MisuseException("Column " + column.name() + " of " + table + " holds "
                        + column.type().declared() + ", and " + cased.letters() + " is for text.");
            }
        }
        return condition.replaceParts(this::read);
    }

    private RelatedRows.Resolved related(RelatedRows related) {
        if (related instanceof RelatedRows.Resolved resolved) {
            RelatedRows.Side side = resolved.side();
            Relation relation = resolved.relation();
            if (!table.name().equals(side == RelatedRows.Side.CHILDREN ? relation.parent() : relation.child())) {
                throw new MisuseException("Relation " + relation + " does not connect rows of " + table + " with "
                        + resolved.table() + " in this direction.");
            }
            return resolved;
        }
        if (schema == null) {
            throw new MisuseException(
                    "A condition on " + table + " looks at related rows, which is not possible here.",
                    "Use the columns of " + table + " itself.");
        }
        return related.resolve(table, schema);
    }

    private static String columnOf(Condition part) {
        if (part instanceof Compare compare) {
            return compare.column();
        }
        if (part instanceof OneOf oneOf) {
            return oneOf.column();
        }
        if (part instanceof Like like) {
            return like.column();
        }
        throw new MisuseException("Lower and upper case are for a comparison, a list of values or a pattern.");
    }

    private Object value(Object value, Column column) {
        if (value instanceof Parameter) {
            return value;
        }
        if (value instanceof RelativeTime moment) {
            moment.checkedFor(column, table);
            return value;
        }
        return column.read(value, table.name());
    }
}
