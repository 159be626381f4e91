// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.sql;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.All;
import io.vacancy.condition.Condition.Any;
import io.vacancy.condition.Condition.CaseFolded;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.CompareColumns;
import io.vacancy.condition.Condition.Exists;
import io.vacancy.condition.Condition.Is;
import io.vacancy.condition.Condition.IsNull;
import io.vacancy.condition.Condition.IsTrue;
import io.vacancy.condition.Condition.Latest;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.Not;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelativeTime;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Writes conditions as SQL on the rows of a table under an alias. */
public final class ConditionSql {

    private static final int FLAT = 50;

    private final Table table;
    private final Syntax syntax;
    private final @Nullable ZonedDateTime now;
    private final String alias;

    /**
     * @param syntax how the engine writes names and truth values
     * @param now what conditions mean by today and now
     */
    public ConditionSql(Table table, Syntax syntax, ZonedDateTime now, String alias) {
        this(alias, table, syntax, now);
    }

    private ConditionSql(String alias, Table table, Syntax syntax, @Nullable ZonedDateTime now) {
        this.alias = alias;
        this.table = table;
        this.syntax = syntax;
        this.now = now;
    }

    /** The same for text that is kept and means the day or time at which it is run, by the engine's own clock. */
    public static ConditionSql byTheEnginesClock(Table table, Syntax syntax, String alias) {
        return new ConditionSql(alias, table, syntax, null);
    }

    /** The condition, in parentheses where that matters. */
    public Sql write(Condition condition) {
        return write(condition, UnaryOperator.identity());
    }

    /** @param cased what is written around the name of a column */
    private Sql write(Condition condition, UnaryOperator<String> cased) {
        if (condition instanceof CaseFolded letters) {
            String function = letters.letters().name();
            return write(letters.part(), name -> function + "(" + name + ")");
        }
        if (condition instanceof Compare compare) {
            Column column = table.column(compare.column());
            return bind(
                    Sql.of(cased.apply(name(column)) + " "
                            + compare.comparison().sign() + " "),
                    compare.value(),
                    column);
        }
        if (condition instanceof CompareColumns compare) {
            return Sql.of(name(table.column(compare.column())) + " "
                    + compare.comparison().sign() + " " + name(table.column(compare.other())));
        }
        if (condition instanceof OneOf oneOf) {
            return oneOf(oneOf, cased);
        }
        if (condition instanceof Like like) {
            Column column = table.column(like.column());
            // The standard has no escape character unless one is named, and a backslash is special to some engines.
            String pattern = like.pattern()
                    .replace("!", "!!")
                    .replace("\\\\", "\0")
                    .replace("\\", "!")
                    .replace("\0", "\\");
            return Sql.of(cased.apply(name(column)) + " LIKE ")
                    .bind(pattern, column.type())
                    .add(" ESCAPE '!'");
        }
        if (condition instanceof Latest latest) {
            return latest(latest);
        }
        if (condition instanceof Condition.Duplicate duplicate) {
            return duplicate(duplicate);
        }
        if (condition instanceof Exists exists) {
            return exists((RelatedRows.Resolved) exists.related(), exists.which());
        }
        if (condition instanceof IsNull isNull) {
            return Sql.of(name(table.column(isNull.column())) + " IS NULL");
        }
        if (condition instanceof Is is) {
            return Sql.of(syntax.isTruth(name(table.column(is.column())), is.truth()));
        }
        if (condition instanceof All all) {
            return joined(all.parts(), " AND ", "1 = 1");
        }
        if (condition instanceof Any any) {
            return joined(any.parts(), " OR ", "1 = 0");
        }
        if (condition instanceof Not not) {
            return Sql.of("NOT (").add(write(not.part())).add(")");
        }
        IsTrue certain = (IsTrue) condition;
        return Sql.of("(CASE WHEN ").add(write(certain.part())).add(" THEN 1 ELSE 0 END) = 1");
    }

    /** No other version began later and has begun. */
    private Sql latest(Latest latest) {
        Column start = table.column(latest.start());
        String begin = syntax.quote(start.name());
        Sql sql = bind(Sql.of("(" + alias + "." + begin + " <= "), RelativeTime.nowIn(start), start)
                .add(" AND NOT EXISTS (SELECT 1 FROM " + tableName(table.name()) + " later WHERE ");
        for (String column : latest.of()) {
            sql.add("later." + syntax.quote(column) + " = " + alias + "." + syntax.quote(column) + " AND ");
        }
        sql.add("later." + begin + " > " + alias + "." + begin + " AND later." + begin + " <= ");
        return bind(sql, RelativeTime.nowIn(start), start).add("))");
    }

    private Sql duplicate(Condition.Duplicate duplicate) {
        Sql sql = Sql.of("EXISTS (SELECT 1 FROM " + tableName(table.name()) + " other WHERE ");
        String and = "";
        for (Column column : table.columns()) {
            Object value = duplicate.values().get(column.name());
            if (value != null) {
                bind(sql.add(and + "other." + syntax.quote(column.name()) + " = "), value, column);
                and = " AND ";
            }
        }
        for (String column : duplicate.same()) {
            sql.add(" AND other." + syntax.quote(column) + " = " + alias + "." + syntax.quote(column));
        }
        // A row is not its own duplicate; of rows without any key none is touched.
        String own = table.identity().columns().stream()
                // The engine's own row id is an expression, and no name.
                .map(column -> table.has(column) ? syntax.quote(column) : column)
                .map(column -> "other." + column + " = " + alias + "." + column)
                .collect(Collectors.joining(" AND "));
        return sql.add(own.isEmpty() ? ")" : " AND NOT (" + own + "))");
    }

    /** The related table has an alias that grows with each sub-select, so that a table may come twice. */
    private Sql exists(RelatedRows.Resolved related, @Nullable Condition which) {
        String other = alias + "_r";
        boolean children = related.side() == RelatedRows.Side.CHILDREN;
        String joined = children
                ? syntax.joined(related.relation(), alias, other)
                : syntax.joined(related.relation(), other, alias);
        Sql sql = Sql.of(
                        "EXISTS (SELECT 1 FROM " + tableName(related.table().name()) + " " + other + " WHERE " + joined)
                .add(Referring.andKind(related.relation(), syntax, children ? other : alias));
        if (which != null) {
            sql.add(" AND ").add(new ConditionSql(other, related.table(), syntax, now).write(which));
        }
        return sql.add(")");
    }

    private String tableName(TableName name) {
        String schema = name.schema();
        return (schema == null ? "" : syntax.quote(schema) + ".") + syntax.quote(name.name());
    }

    private Sql oneOf(OneOf oneOf, UnaryOperator<String> cased) {
        if (oneOf.values().isEmpty()) {
            return Sql.of("1 = 0");
        }
        Column column = table.column(oneOf.column());
        Sql sql = Sql.of(cased.apply(name(column)) + " IN (");
        for (int i = 0; i < oneOf.values().size(); i++) {
            bind(sql.add(i == 0 ? "" : ", "), oneOf.values().get(i), column);
        }
        return sql.add(")");
    }

    private Sql bind(Sql sql, Object value, Column column) {
        if (value instanceof RelativeTime && now == null) {
            return sql.add(syntax.clock(column.type()));
        }
        Object settled = value instanceof RelativeTime moment && now != null
                ? moment.at(now, column.type().kind())
                : value;
        return sql.bind(settled, column.type());
    }

    private Sql joined(List<Condition> parts, String word, String none) {
        if (parts.isEmpty()) {
            return Sql.of(none);
        }
        if (parts.size() > FLAT) {
            // In halves, because engines limit how deep an expression may be, and a chain of words is as deep as long.
            int half = parts.size() / 2;
            List<Condition> first = parts.subList(0, half);
            List<Condition> rest = parts.subList(half, parts.size());
            return Sql.of("(")
                    .add(joined(first, word, none))
                    .add(word)
                    .add(joined(rest, word, none))
                    .add(")");
        }
        Sql sql = new Sql();
        for (int i = 0; i < parts.size(); i++) {
            sql.add(i == 0 ? "(" : word).add(write(parts.get(i)));
        }
        return sql.add(")");
    }

    private String name(Column column) {
        return (alias.isEmpty() ? "" : alias + ".") + syntax.quote(column.name());
    }
}
