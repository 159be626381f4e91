// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The rows that a relation connects with a row: its children, or its parent. The start of a condition on them:
 * {@code children("mooring.boat_id").notExists(column("left_on").atLeast(date))}. Immutable.
 */
public sealed interface RelatedRows {

    /** At which end of the relation the related rows are. */
    enum Side {
        CHILDREN,
        PARENT
    }

    /**
     * By the name of a relation.
     *
     * @param relation in its written form
     */
    record ByRelation(String relation, Side side) implements RelatedRows {
        public ByRelation {
            Arguments.notBlank(relation, "relation");
            Arguments.notNull(side, "side");
        }
    }

    /**
     * By the columns that are compared, as a search condition writes it. It must be those of a relation.
     *
     * @param table the related rows' table
     * @param pairs at least one
     * @param of the table of the row that they are related to
     */
    record ByColumns(String table, List<ColumnPair> pairs, String of) implements RelatedRows {
        public ByColumns {
            Arguments.notBlank(table, "table");
            Arguments.notBlank(of, "of");
            pairs = List.copyOf(Arguments.noneNull(pairs, "pairs"));
            if (pairs.isEmpty()) {
                throw new MisuseException(
                        "Nothing says how rows of " + table + " are related to a row of " + of + ".",
                        "Compare the columns of a relation between the two.");
            }
        }
    }

    /**
     * A column of the related rows that is equal to one of the row.
     *
     * @param column of the related rows
     * @param of of the row that they are related to
     */
    record ColumnPair(String column, String of) {
        public ColumnPair {
            Arguments.notBlank(column, "column");
            Arguments.notBlank(of, "of");
        }
    }

    /**
     * As the schema knows it.
     *
     * @param table the related rows' table
     */
    record Resolved(Relation relation, Side side, Table table) implements RelatedRows {
        public Resolved {
            Arguments.notNull(relation, "relation");
            Arguments.notNull(side, "side");
            Arguments.notNull(table, "table");
        }

        /** The related rows' columns of the relation, each with the row's own. */
        public List<ColumnPair> pairs() {
            boolean children = side == Side.CHILDREN;
            List<String> columns = children ? relation.childColumns() : relation.parentColumns();
            List<String> of = children ? relation.parentColumns() : relation.childColumns();
            return Stream.iterate(0, i -> i < columns.size(), i -> i + 1)
                    .map(i -> new ColumnPair(columns.get(i), of.get(i)))
                    .toList();
        }
    }

    /** The child rows of a relation to the table that the condition is used on. */
    static RelatedRows children(String relation) {
        return new ByRelation(relation, Side.CHILDREN);
    }

    /** The parent row of a relation from the table that the condition is used on. */
    static RelatedRows parent(String relation) {
        return new ByRelation(relation, Side.PARENT);
    }

    /** There is such a row. Never unknown: a link that is NULL leads to no row. */
    default Condition exists() {
        return new Condition.Exists(this, null);
    }

    /** There is such a row for which a condition on its own table is true. */
    default Condition exists(Condition which) {
        return new Condition.Exists(this, Arguments.notNull(which, "which"));
    }

    /** There is no such row. */
    default Condition notExists() {
        return exists().not();
    }

    /** There is no such row for which a condition on its own table is true. */
    default Condition notExists(Condition which) {
        return exists(which).not();
    }

    /**
     * These rows as a schema knows them, for a condition on a table.
     *
     * @throws MisuseException if the schema has no such relation, or it does not lead to or from the table
     */
    default Resolved resolve(Table table, Schema schema) {
        Arguments.notNull(table, "table");
        Arguments.notNull(schema, "schema");
        if (this instanceof Resolved resolved) {
            return resolved;
        }
        if (this instanceof ByRelation by) {
            return resolve(by, table, schema);
        }
        return resolve((ByColumns) this, table, schema);
    }

    private static Resolved resolve(ByRelation by, Table table, Schema schema) {
        Relation relation = schema.relation(by.relation());
        if (relation.list()) {
            throw noLists(relation);
        }
        boolean children = by.side() == Side.CHILDREN;
        if (!table.name().equals(children ? relation.parent() : relation.child())) {
            throw new MisuseException(
                    "Rows of " + table + " have no " + (children ? "child rows" : "parent") + " by " + relation + ".",
                    "The relation leads from " + relation.child() + ", the child, to " + relation.parent() + ".");
        }
        return new Resolved(relation, by.side(), schema.table(children ? relation.child() : relation.parent()));
    }

    private static MisuseException noLists(Relation relation) {
        return new MisuseException(
                "No condition looks at rows along " + relation + ", which is a list of keys.",
                "The rule on it says what becomes of such rows; orphans tells of keys that lead nowhere.");
    }

    private static Resolved resolve(ByColumns by, Table table, Schema schema) {
        Table related = schema.table(by.table());
        if (!schema.table(by.of()).name().equals(table.name())) {
            throw new MisuseException(
                    "EXISTS compares rows of " + related + " with a row of " + by.of() + ", and the condition is on "
                            + table + ".",
                    "Compare a column of " + related + " with one of " + table + ".");
        }
        Set<ColumnPair> meant = by.pairs().stream()
                .map(pair -> new ColumnPair(
                        related.column(pair.column()).name(),
                        table.column(pair.of()).name()))
                .collect(Collectors.toSet());
        List<Resolved> between = Stream.concat(
                        schema.relationsFrom(related.name()).stream()
                                .filter(relation -> relation.parent().equals(table.name()))
                                .map(relation -> new Resolved(relation, Side.CHILDREN, related)),
                        schema.relationsFrom(table.name()).stream()
                                .filter(relation -> relation.parent().equals(related.name()))
                                .map(relation -> new Resolved(relation, Side.PARENT, related)))
                .toList();
        List<Resolved> fitting = between.stream()
                .filter(known -> meant.equals(Set.copyOf(known.pairs())))
                .toList();
        for (Resolved known : fitting) {
            if (known.relation().list()) {
                throw noLists(known.relation());
            }
        }
        if (fitting.stream().anyMatch(known -> known.relation().discriminator() != null) && fitting.size() > 1) {
            throw new MisuseException(
                    "Several relations between " + table + " and " + related + " compare these columns: "
                            + fitting.stream()
                                    .map(known -> known.relation().name())
                                    .collect(Collectors.joining("; "))
                            + ".",
                    "Say which one by its name, in Java or as CQL2.");
        }
        return fitting.stream()
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "No relation between " + table + " and " + related + " is by "
                                + by.pairs().stream()
                                        .map(pair -> related + "." + pair.column() + " = " + table + "." + pair.of())
                                        .collect(Collectors.joining(" and "))
                                + ".",
                        between.isEmpty()
                                ? "Declare a relation between the two in the rule book."
                                : "Known between the two: "
                                        + between.stream()
                                                .map(known -> known.relation().name())
                                                .collect(Collectors.joining(", "))
                                        + "."));
    }
}
