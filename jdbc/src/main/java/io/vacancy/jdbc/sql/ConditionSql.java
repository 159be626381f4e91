package io.vacancy.jdbc.sql;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.All;
import io.vacancy.condition.Condition.Any;
import io.vacancy.condition.Condition.Certain;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.CompareColumns;
import io.vacancy.condition.Condition.Is;
import io.vacancy.condition.Condition.IsNull;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.Not;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import java.util.List;
import java.util.function.UnaryOperator;

/** Writes conditions as SQL on the rows of a table under the alias t. */
public final class ConditionSql {

    private final Table table;
    private final UnaryOperator<String> quote;

    /** @param quote how the engine quotes an identifier */
    public ConditionSql(Table table, UnaryOperator<String> quote) {
        this.table = table;
        this.quote = quote;
    }

    /** The condition, in parentheses where that matters. */
    public Sql write(Condition condition) {
        if (condition instanceof Compare compare) {
            Column column = table.column(compare.column());
            return Sql.of(name(column) + " " + compare.comparison().sign() + " ")
                    .bind(compare.value(), column.type());
        }
        if (condition instanceof CompareColumns compare) {
            return Sql.of(name(table.column(compare.column())) + " "
                    + compare.comparison().sign() + " " + name(table.column(compare.other())));
        }
        if (condition instanceof OneOf oneOf) {
            return oneOf(oneOf);
        }
        if (condition instanceof Like like) {
            Column column = table.column(like.column());
            // The standard has no escape character unless one is named, and a backslash is special to some engines.
            String pattern = like.pattern()
                    .replace("!", "!!")
                    .replace("\\\\", "\0")
                    .replace("\\", "!")
                    .replace("\0", "\\");
            return Sql.of(name(column) + " LIKE ").bind(pattern, column.type()).add(" ESCAPE '!'");
        }
        if (condition instanceof IsNull isNull) {
            return Sql.of(name(table.column(isNull.column())) + " IS NULL");
        }
        if (condition instanceof Is is) {
            return Sql.of(name(table.column(is.column())) + " IS " + (is.truth() ? "TRUE" : "FALSE"));
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
        Certain certain = (Certain) condition;
        return Sql.of("(CASE WHEN ").add(write(certain.part())).add(" THEN 1 ELSE 0 END) = 1");
    }

    private Sql oneOf(OneOf oneOf) {
        if (oneOf.values().isEmpty()) {
            return Sql.of("1 = 0");
        }
        Column column = table.column(oneOf.column());
        Sql sql = Sql.of(name(column) + " IN (");
        for (int i = 0; i < oneOf.values().size(); i++) {
            sql.add(i == 0 ? "" : ", ").bind(oneOf.values().get(i), column.type());
        }
        return sql.add(")");
    }

    private Sql joined(List<Condition> parts, String word, String none) {
        if (parts.isEmpty()) {
            return Sql.of(none);
        }
        Sql sql = new Sql();
        for (int i = 0; i < parts.size(); i++) {
            sql.add(i == 0 ? "(" : word).add(write(parts.get(i)));
        }
        return sql.add(")");
    }

    private String name(Column column) {
        return "t." + quote.apply(column.name());
    }
}
