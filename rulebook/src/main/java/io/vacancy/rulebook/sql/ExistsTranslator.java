// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook.sql;

import io.vacancy.condition.Condition;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelatedRows.ColumnPair;
import io.vacancy.failure.MisuseException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.LongValue;
import net.sf.jsqlparser.expression.operators.conditional.AndExpression;
import net.sf.jsqlparser.expression.operators.relational.EqualsTo;
import net.sf.jsqlparser.expression.operators.relational.ExistsExpression;
import net.sf.jsqlparser.expression.operators.relational.ParenthesedExpressionList;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.ParenthesedSelect;
import net.sf.jsqlparser.statement.select.PlainSelect;
import org.jspecify.annotations.Nullable;

/**
 * The one sub-select that a condition may hold: EXISTS (SELECT 1 FROM table WHERE table.column = outside.column AND …),
 * where the columns that are compared with the row outside are those of a relation.
 *
 * @param outside the sub-select that this one stands in, or null for none
 */
record ExistsTranslator(String text, @Nullable SubSelect outside) {

    /** What rows are looked for: the table, and the name by which its columns are qualified. */
    record SubSelect(String table, String name) {

        boolean has(String qualifier) {
            return name.equalsIgnoreCase(qualifier);
        }
    }

    Condition condition(ExistsExpression exists) {
        PlainSelect select = select(exists);
        Table table = (Table) select.getFromItem();
        String name = name(table);
        SubSelect rows = new SubSelect(
                name,
                table.getAlias() == null ? name : unquoted(table.getAlias().getName()));
        List<Expression> parts = new ArrayList<>();
        if (select.getWhere() != null) {
            conjuncts(select.getWhere(), parts);
        }
        List<ColumnPair> pairs = new ArrayList<>();
        String of = null;
        Condition which = null;
        SqlConditionTranslator inside = new SqlConditionTranslator(text, rows);
        for (Expression part : parts) {
            Column around = around(part, rows);
            if (around == null) {
                Condition own = inside.condition(part);
                which = which == null ? own : which.and(own);
                continue;
            }
            String outer = of(around);
            if (of != null && !of.equalsIgnoreCase(outer)) {
                throw refused(part, "rows are related to one row only, that of " + of);
            }
            of = outer;
            pairs.add(pair((EqualsTo) part, around));
        }
        if (of == null) {
            throw refused(
                    exists,
                    "EXISTS must say how the rows are related, as in " + rows.name()
                            + ".column = table.column with the columns of a relation");
        }
        return new Condition.Exists(new RelatedRows.ByColumns(name, pairs, of), which);
    }

    /** Whatever else a sub-select may have is refused, since this is all that it is written with. */
    private PlainSelect select(ExistsExpression exists) {
        if (exists.getRightExpression() instanceof ParenthesedSelect inside
                && inside.getSelect() instanceof PlainSelect select
                && select.getFromItem() instanceof Table table
                && select.getSelectItems().size() == 1
                && (select.getSelectItem(0).getExpression() instanceof LongValue
                        || select.getSelectItem(0).getExpression() instanceof AllColumns)) {
            List<String> parts = new ArrayList<>(table.getNameParts());
            Collections.reverse(parts);
            Table plain = new Table(parts);
            plain.setAlias(table.getAlias());
            PlainSelect known = new PlainSelect();
            known.addSelectItems(select.getSelectItem(0));
            known.setFromItem(plain);
            known.setWhere(select.getWhere());
            if (inside.toString().equals("(" + known + ")")) {
                return select;
            }
        }
        throw refused(exists, "EXISTS requires SELECT 1 FROM one table WHERE a condition, and nothing else");
    }

    private static void conjuncts(Expression expression, List<Expression> parts) {
        if (expression instanceof AndExpression and) {
            conjuncts(and.getLeftExpression(), parts);
            conjuncts(and.getRightExpression(), parts);
        } else if (expression instanceof ParenthesedExpressionList<?> inside && inside.size() == 1) {
            conjuncts(inside.get(0), parts);
        } else {
            parts.add(expression);
        }
    }

    /** The column of the row outside that a column of the rows is compared with, or null where there is none. */
    private static @Nullable Column around(Expression part, SubSelect own) {
        if (!(part instanceof EqualsTo equal)
                || !(equal.getLeftExpression() instanceof Column left)
                || !(equal.getRightExpression() instanceof Column right)) {
            return null;
        }
        boolean leftOut = isOutside(left, own);
        return leftOut == isOutside(right, own) ? null : leftOut ? left : right;
    }

    private static boolean isOutside(Column column, SubSelect own) {
        return column.getTable() != null && !own.has(name(column.getTable()));
    }

    private static ColumnPair pair(EqualsTo equal, Column around) {
        Expression other = equal.getLeftExpression() == around ? equal.getRightExpression() : equal.getLeftExpression();
        return new ColumnPair(unquoted(((Column) other).getColumnName()), unquoted(around.getColumnName()));
    }

    /** The table of the row outside. */
    private String of(Column around) {
        String qualifier = name(around.getTable());
        if (outside == null) {
            return qualifier;
        }
        if (!outside.has(qualifier)) {
            throw refused(around, "rows are related to the row around them, that of " + outside.name());
        }
        return outside.table();
    }

    static String name(Table table) {
        List<String> parts = new ArrayList<>();
        // The parser keeps them from the end.
        table.getNameParts().forEach(part -> parts.add(0, unquoted(part)));
        return String.join(".", parts);
    }

    static String unquoted(String name) {
        return name.startsWith("\"") && name.endsWith("\"") && name.length() > 2
                ? name.substring(1, name.length() - 1).replace("\"\"", "\"")
                : name;
    }

    private MisuseException refused(Expression expression, String reason) {
        return SearchCondition.refused(text, SqlConditionTranslator.position(text, expression), reason);
    }
}
