// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook.sql;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.Comparison;
import io.vacancy.condition.Condition.LetterCase;
import io.vacancy.condition.Parameter;
import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.rulebook.sql.ExistsTranslator.SubSelect;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import net.sf.jsqlparser.expression.BinaryExpression;
import net.sf.jsqlparser.expression.BooleanValue;
import net.sf.jsqlparser.expression.DateTimeLiteralExpression;
import net.sf.jsqlparser.expression.DoubleValue;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.IntervalExpression;
import net.sf.jsqlparser.expression.JdbcNamedParameter;
import net.sf.jsqlparser.expression.LongValue;
import net.sf.jsqlparser.expression.NotExpression;
import net.sf.jsqlparser.expression.NullValue;
import net.sf.jsqlparser.expression.SignedExpression;
import net.sf.jsqlparser.expression.StringValue;
import net.sf.jsqlparser.expression.TimeKeyExpression;
import net.sf.jsqlparser.expression.operators.arithmetic.Addition;
import net.sf.jsqlparser.expression.operators.arithmetic.Subtraction;
import net.sf.jsqlparser.expression.operators.conditional.AndExpression;
import net.sf.jsqlparser.expression.operators.conditional.OrExpression;
import net.sf.jsqlparser.expression.operators.relational.Between;
import net.sf.jsqlparser.expression.operators.relational.ComparisonOperator;
import net.sf.jsqlparser.expression.operators.relational.ExistsExpression;
import net.sf.jsqlparser.expression.operators.relational.ExpressionList;
import net.sf.jsqlparser.expression.operators.relational.InExpression;
import net.sf.jsqlparser.expression.operators.relational.IsBooleanExpression;
import net.sf.jsqlparser.expression.operators.relational.IsNullExpression;
import net.sf.jsqlparser.expression.operators.relational.LikeExpression;
import net.sf.jsqlparser.expression.operators.relational.ParenthesedExpressionList;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.statement.select.Select;
import org.jspecify.annotations.Nullable;

/** From a parsed expression to the core's condition; what the core does not know is refused. */
final class SqlConditionTranslator {

    private final String text;
    private final @Nullable SubSelect within;

    /** @param within the sub-select whose rows the condition is on; null for those of the whole condition's table */
    SqlConditionTranslator(String text, @Nullable SubSelect within) {
        this.text = text;
        this.within = within;
    }

    Condition condition(Expression expression) {
        if (expression instanceof AndExpression and) {
            return condition(and.getLeftExpression()).and(condition(and.getRightExpression()));
        }
        if (expression instanceof OrExpression or) {
            return condition(or.getLeftExpression()).or(condition(or.getRightExpression()));
        }
        if (expression instanceof NotExpression not && !not.isExclamationMark()) {
            return condition(not.getExpression()).not();
        }
        if (expression instanceof ParenthesedExpressionList<?> inside && inside.size() == 1) {
            return condition(inside.get(0));
        }
        if (expression instanceof ComparisonOperator comparison) {
            return comparison(comparison);
        }
        if (expression instanceof Between between) {
            Operand operand = operand(between.getLeftExpression());
            Condition low = operand.of(name ->
                    new Condition.Compare(name, Comparison.AT_LEAST, value(between.getBetweenExpressionStart())));
            Condition high = operand.of(
                    name -> new Condition.Compare(name, Comparison.AT_MOST, value(between.getBetweenExpressionEnd())));
            return negated(low.and(high), between.isNot());
        }
        if (expression instanceof InExpression in) {
            List<Object> values = values(in.getRightExpression());
            return negated(operand(in.getLeftExpression()).of(name -> new Condition.OneOf(name, values)), in.isNot());
        }
        if (expression instanceof LikeExpression like) {
            return like(like);
        }
        if (expression instanceof IsNullExpression isNull) {
            return negated(new Condition.IsNull(column(isNull.getLeftExpression())), isNull.isNot());
        }
        if (expression instanceof IsBooleanExpression is) {
            return negated(new Condition.Is(column(is.getLeftExpression()), is.isTrue()), is.isNot());
        }
        if (expression instanceof ExistsExpression exists) {
            return negated(new ExistsTranslator(text, within).condition(exists), exists.isNot());
        }
        if (expression instanceof Column column && truth(column) == null) {
            return new Condition.Compare(column(column), Comparison.EQUAL, true);
        }
        throw refused(expression, "this is no comparison of a column with a value");
    }

    private static Condition negated(Condition condition, boolean not) {
        return not ? condition.not() : condition;
    }

    private Condition comparison(ComparisonOperator written) {
        Expression left = written.getLeftExpression();
        Expression right = written.getRightExpression();
        Comparison comparison = sign(written);
        if (left instanceof NullValue || right instanceof NullValue) {
            throw refused(written, "a comparison with NULL is never true; use IS NULL or IS NOT NULL");
        }
        boolean leftColumn = left instanceof Column column && truth(column) == null;
        boolean rightColumn = right instanceof Column column && truth(column) == null;
        if (leftColumn && rightColumn) {
            return new Condition.CompareColumns(column(left), comparison, column(right));
        }
        if (rightColumn) {
            return new Condition.Compare(column(right), turned(comparison), value(left));
        }
        return operand(left).of(name -> new Condition.Compare(name, comparison, value(right)));
    }

    /** A column, or one in lower or upper case. */
    private record Operand(String column, @Nullable LetterCase letters) {
        Condition of(Function<String, Condition> comparison) {
            Condition plain = comparison.apply(column);
            return letters == null ? plain : new Condition.CaseFolded(letters, plain);
        }
    }

    private Operand operand(Expression expression) {
        if (!(expression instanceof net.sf.jsqlparser.expression.Function function)) {
            return new Operand(column(expression), null);
        }
        LetterCase letters =
                switch (function.getName().toUpperCase(Locale.ROOT)) {
                    case "LOWER" -> LetterCase.LOWER;
                    case "UPPER" -> LetterCase.UPPER;
                    default ->
                        throw refused(
                                expression,
                                "this function is not known; known are LOWER and UPPER of a column, CURRENT_DATE and"
                                        + " CURRENT_TIMESTAMP");
                };
        ExpressionList<?> given = function.getParameters();
        if (given == null || given.size() != 1) {
            throw refused(expression, function.getName() + " requires one column");
        }
        return new Operand(column(given.get(0)), letters);
    }

    private Comparison sign(ComparisonOperator written) {
        return switch (written.getStringExpression().replace(" ", "")) {
            case "=" -> Comparison.EQUAL;
            case "<>", "!=" -> Comparison.NOT_EQUAL;
            case "<" -> Comparison.LESS;
            case "<=" -> Comparison.AT_MOST;
            case ">" -> Comparison.GREATER;
            case ">=" -> Comparison.AT_LEAST;
            default -> throw refused(written, "this comparison is not one of the standard's");
        };
    }

    private static Comparison turned(Comparison comparison) {
        return switch (comparison) {
            case EQUAL, NOT_EQUAL -> comparison;
            case LESS -> Comparison.GREATER;
            case AT_MOST -> Comparison.AT_LEAST;
            case GREATER -> Comparison.LESS;
            case AT_LEAST -> Comparison.AT_MOST;
        };
    }

    private Condition like(LikeExpression like) {
        if (like.getLikeKeyWord() != LikeExpression.KeyWord.LIKE || like.isUseBinary()) {
            throw refused(like, "of the patterns only LIKE is known");
        }
        if (!(like.getRightExpression() instanceof StringValue pattern)) {
            throw refused(like, "LIKE requires a text as its pattern");
        }
        String written = pattern(like, pattern.getNotExcapedValue());
        return negated(operand(like.getLeftExpression()).of(name -> new Condition.Like(name, written)), like.isNot());
    }

    /**
     * The pattern with the core's backslash before what is not special. The standard has no escape character
     * unless one is named, so a backslash of its own stands for itself.
     */
    private String pattern(LikeExpression like, String written) {
        Expression escape = like.getEscape();
        String named = escape instanceof StringValue text ? text.getNotExcapedValue() : "";
        if (escape != null && named.length() != 1) {
            throw refused(like, "ESCAPE requires one character");
        }
        StringBuilder pattern = new StringBuilder();
        for (int i = 0; i < written.length(); i++) {
            char c = written.charAt(i);
            if (escape != null && c == named.charAt(0)) {
                if (i + 1 == written.length()
                        || "%_".indexOf(written.charAt(i + 1)) < 0 && written.charAt(i + 1) != c) {
                    throw refused(like, "the escape character stands before %, _ or itself only");
                }
                pattern.append('\\').append(written.charAt(++i));
            } else {
                pattern.append(c == '\\' ? "\\\\" : String.valueOf(c));
            }
        }
        return pattern.toString();
    }

    private List<Object> values(Expression right) {
        if (right instanceof Select) {
            throw refused(right, "a sub-select is not allowed");
        }
        if (!(right instanceof ExpressionList<?> list) || list.isEmpty()) {
            throw refused(right, "IN requires a list of values in parentheses");
        }
        List<Object> values = new ArrayList<>();
        for (Expression each : list) {
            values.add(value(each));
        }
        return values;
    }

    private String column(Expression expression) {
        if (!(expression instanceof Column column)
                || (column.getTable() != null
                        && (within == null || !within.has(ExistsTranslator.name(column.getTable()))))
                || column.getArrayConstructor() != null) {
            throw refused(expression, "here a column of the table itself is wanted");
        }
        return ExistsTranslator.unquoted(column.getColumnName());
    }

    private Object value(Expression expression) {
        if (expression instanceof NullValue) {
            throw refused(expression, "NULL is no value to compare with; use IS NULL or IS NOT NULL");
        }
        if (expression instanceof StringValue string && string.getPrefix() == null) {
            return string.getNotExcapedValue();
        }
        if (expression instanceof LongValue whole) {
            BigInteger number = new BigInteger(whole.getStringValue());
            return number.bitLength() < Long.SIZE ? (Object) number.longValue() : number;
        }
        if (expression instanceof DoubleValue number) {
            return new BigDecimal(number.toString());
        }
        if (expression instanceof SignedExpression signed && (signed.getSign() == '-' || signed.getSign() == '+')) {
            Object number = value(signed.getExpression());
            if (number instanceof Number) {
                BigDecimal decimal = new BigDecimal(number.toString());
                BigDecimal result = signed.getSign() == '-' ? decimal.negate() : decimal;
                return number instanceof BigDecimal ? (Object) result : result.toBigIntegerExact();
            }
        }
        if (expression instanceof DateTimeLiteralExpression literal) {
            return dateOrTime(literal);
        }
        if (expression instanceof JdbcNamedParameter parameter) {
            return Parameter.parameter(parameter.getName());
        }
        if (expression instanceof TimeKeyExpression || expression instanceof BinaryExpression) {
            return moment(expression);
        }
        if (expression instanceof BooleanValue truth) {
            return truth.getValue();
        }
        if (expression instanceof Column column && truth(column) != null) {
            return Boolean.parseBoolean(column.getColumnName());
        }
        throw refused(expression, "here a plain value is wanted");
    }

    /** CURRENT_DATE or CURRENT_TIMESTAMP, or one of them and so much before or after it. */
    private RelativeTime moment(Expression expression) {
        if (expression instanceof TimeKeyExpression key) {
            return switch (key.getStringValue().toUpperCase(Locale.ROOT)) {
                case "CURRENT_DATE" -> RelativeTime.today();
                case "CURRENT_TIMESTAMP" -> RelativeTime.now();
                default -> throw refused(expression, "only CURRENT_DATE and CURRENT_TIMESTAMP are known");
            };
        }
        boolean earlier = expression instanceof Subtraction;
        if ((earlier || expression instanceof Addition)
                && expression instanceof BinaryExpression moved
                && moved.getRightExpression() instanceof IntervalExpression interval
                && interval.getParameter() != null) {
            String amount = interval.getParameter().replace("'", "").strip();
            String unit =
                    String.valueOf(interval.getIntervalQualifier()).strip().toUpperCase(Locale.ROOT) + "S";
            ChronoUnit by = RelativeTime.UNITS.stream()
                    .filter(known -> known.name().equals(unit))
                    .findFirst()
                    .orElseThrow(() -> refused(interval, "this unit of time is not known"));
            if (!amount.matches("[0-9]{1,6}")) {
                throw refused(interval, "an interval requires a whole number");
            }
            RelativeTime from = moment(moved.getLeftExpression());
            return earlier ? from.minus(Long.parseLong(amount), by) : from.plus(Long.parseLong(amount), by);
        }
        throw refused(expression, "here a plain value is wanted");
    }

    private static @Nullable Boolean truth(Column column) {
        String name = column.getFullyQualifiedName().toLowerCase(Locale.ROOT);
        return name.equals("true") ? Boolean.TRUE : name.equals("false") ? Boolean.FALSE : null;
    }

    private Object dateOrTime(DateTimeLiteralExpression literal) {
        String value = literal.getValue().replaceAll("^'|'$", "");
        try {
            return switch (literal.getType()) {
                case DATE -> LocalDate.parse(value);
                case TIME -> LocalTime.parse(value);
                case TIMESTAMP -> LocalDateTime.parse(value.replace(' ', 'T'));
                default -> throw refused(literal, "only DATE, TIME and TIMESTAMP are known");
            };
        } catch (DateTimeException wrong) {
            throw refused(literal, "this is not a valid date or time");
        }
    }

    private MisuseException refused(Expression expression, String reason) {
        return SearchCondition.refused(text, position(text, expression), reason);
    }

    /** Where an expression begins, from 1. */
    static int position(String text, Expression expression) {
        // The parser writes its own way, and column names were put into quotation marks for it.
        String written = expression.toString().replace("\"", "");
        int at = text.toLowerCase(Locale.ROOT).indexOf(written.toLowerCase(Locale.ROOT));
        return at < 0 ? 1 : at + 1;
    }
}
