// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.condition.Condition.All;
import io.vacancy.condition.Condition.Any;
import io.vacancy.condition.Condition.CaseFolded;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.CompareColumns;
import io.vacancy.condition.Condition.Exists;
import io.vacancy.condition.Condition.Is;
import io.vacancy.condition.Condition.IsNull;
import io.vacancy.condition.Condition.IsTrue;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.Not;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.condition.RelatedRows.ColumnPair;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Discriminator;
import io.vacancy.schema.TableName;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Conditions as people read them: as the SQL standard's search conditions. Never sent to a database. */
public final class ConditionText {

    /** Words that a reader of search conditions takes for itself; a column of such a name is put into quotation marks. */
    public static final Set<String> WORDS = Set.of(
            "and",
            "or",
            "not",
            "in",
            "is",
            "null",
            "like",
            "between",
            "true",
            "false",
            "escape",
            "interval",
            "current_date",
            "current_timestamp",
            "current_time",
            "as",
            "select",
            "from",
            "where",
            "exists",
            "case",
            "when",
            "then",
            "else",
            "end",
            "union",
            "ilike",
            "similar",
            "rlike",
            "regexp",
            "cast",
            "with",
            "any",
            "all",
            "some",
            "delete",
            "update",
            "insert",
            "distinct",
            "collate",
            "unknown",
            "over");

    /** By which the row is known that the condition is on, where that is not its table's name. */
    private final @Nullable String alias;

    /** How many sub-selects there are around it. */
    private final int depth;

    private ConditionText(@Nullable String alias, int depth) {
        this.alias = alias;
        this.depth = depth;
    }

    /** The condition as a search condition. */
    public static String of(Condition condition) {
        Arguments.notNull(condition, "condition");
        return new ConditionText(null, 0).text(condition);
    }

    private String text(Condition condition) {
        if (condition instanceof CaseFolded cased) {
            return comparison(cased.part(), cased.letters().name());
        }
        if (condition instanceof CompareColumns compare) {
            return name(compare.column()) + " " + compare.comparison().sign() + " " + name(compare.other());
        }
        if (condition instanceof Condition.Latest latest) {
            return "the latest of " + String.join(", ", latest.of()) + " by " + latest.start();
        }
        if (condition instanceof Condition.Duplicate duplicate) {
            String values = new TreeMap<>(duplicate.values())
                    .entrySet().stream()
                            .map(each -> name(each.getKey()) + " = " + value(each.getValue()))
                            .collect(Collectors.joining(" AND "));
            return "another row has " + values
                    + (duplicate.same().isEmpty() ? "" : " and the same " + String.join(", ", duplicate.same()));
        }
        if (condition instanceof Exists exists) {
            return exists(exists);
        }
        if (condition instanceof IsNull isNull) {
            return name(isNull.column()) + " IS NULL";
        }
        if (condition instanceof Is is) {
            return name(is.column()) + " IS " + (is.truth() ? "TRUE" : "FALSE");
        }
        if (condition instanceof All all) {
            return joined(all.parts(), " AND ");
        }
        if (condition instanceof Any any) {
            return joined(any.parts(), " OR ");
        }
        if (condition instanceof Not not) {
            return not(not.part());
        }
        return condition instanceof IsTrue certain
                ? "(" + text(certain.part()) + ") IS TRUE"
                : comparison(condition, "");
    }

    private String not(Condition part) {
        if (part instanceof IsNull isNull) {
            return name(isNull.column()) + " IS NOT NULL";
        }
        return part instanceof Exists ? "NOT " + text(part) : "NOT (" + text(part) + ")";
    }

    /** As a sub-select that compares the columns of the relation. One that is known by its name only is for people. */
    private String exists(Exists exists) {
        RelatedRows related = exists.related();
        Condition which = exists.which();
        if (related instanceof RelatedRows.ByRelation by) {
            String where = which == null ? "" : " WHERE " + new ConditionText(null, depth + 1).text(which);
            return "EXISTS (" + (by.side() == RelatedRows.Side.CHILDREN ? "children" : "parent") + " by "
                    + by.relation() + where + ")";
        }
        return related instanceof RelatedRows.ByColumns by
                ? exists(by.table(), by.pairs(), by.of(), which)
                : exists((RelatedRows.Resolved) related, which);
    }

    private String exists(RelatedRows.Resolved known, @Nullable Condition which) {
        boolean children = known.side() == RelatedRows.Side.CHILDREN;
        TableName of = children ? known.relation().parent() : known.relation().child();
        String related = known.table().name().toString();
        Discriminator only = known.relation().discriminator();
        if (only == null) {
            return exists(related, known.pairs(), of.toString(), which);
        }
        Condition kind = new Compare(only.column().name(), Condition.Comparison.EQUAL, only.value());
        return children
                ? exists(related, known.pairs(), of.toString(), which == null ? kind : kind.and(which))
                : "(" + exists(related, known.pairs(), of.toString(), which) + " AND " + text(kind) + ")";
    }

    /** The table has an alias where its name already means the row around it. */
    private String exists(String table, List<ColumnPair> pairs, String of, @Nullable Condition which) {
        String outside = alias == null ? of : alias;
        String own = table.equals(outside) || depth > 0 ? "related_" + (depth + 1) : null;
        String inside = own == null ? table : own;
        String joined = pairs.stream()
                .map(pair ->
                        dotted(inside) + "." + name(pair.column()) + " = " + dotted(outside) + "." + name(pair.of()))
                .collect(Collectors.joining(" AND "));
        String more = which == null ? "" : " AND " + new ConditionText(inside, depth + 1).grouped(which);
        return "EXISTS (SELECT 1 FROM " + dotted(table) + (own == null ? "" : " " + own) + " WHERE " + joined + more
                + ")";
    }

    private static String dotted(String name) {
        return Stream.of(name.split("\\.")).map(ConditionText::name).collect(Collectors.joining("."));
    }

    private String comparison(Condition condition, String letters) {
        if (condition instanceof Compare compare) {
            return name(compare.column(), letters) + " " + compare.comparison().sign() + " " + value(compare.value());
        }
        if (condition instanceof OneOf oneOf) {
            return name(oneOf.column(), letters) + " IN ("
                    + oneOf.values().stream().map(ConditionText::value).collect(Collectors.joining(", ")) + ")";
        }
        Like like = (Like) condition;
        String escape = like.pattern().contains("\\") ? " ESCAPE '\\'" : "";
        return name(like.column(), letters) + " LIKE " + value(like.pattern()) + escape;
    }

    private String joined(List<Condition> parts, String word) {
        return parts.stream()
                .map(part -> parts.size() > 1 ? grouped(part) : text(part))
                .collect(Collectors.joining(word));
    }

    private String grouped(Condition part) {
        return part instanceof All || part instanceof Any ? "(" + text(part) + ")" : text(part);
    }

    private static String name(String column, String letters) {
        return letters.isEmpty() ? name(column) : letters + "(" + name(column) + ")";
    }

    private static String name(String column) {
        return column.matches("[A-Za-z_][A-Za-z0-9_]*") && !WORDS.contains(column.toLowerCase(Locale.ROOT))
                ? column
                : "\"" + column.replace("\"", "\"\"") + "\"";
    }

    private static String value(Object value) {
        if (value instanceof Number || value instanceof Parameter || value instanceof RelativeTime) {
            return value.toString();
        }
        if (value instanceof Boolean truth) {
            return truth ? "TRUE" : "FALSE";
        }
        String text = "'" + value.toString().replace("'", "''") + "'";
        if (value instanceof LocalDate) {
            return "DATE " + text;
        }
        if (value instanceof LocalTime) {
            return "TIME " + text;
        }
        return value instanceof LocalDateTime ? "TIMESTAMP " + text.replace('T', ' ') : text;
    }
}
