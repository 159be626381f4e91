// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Operation;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.TableName;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * What clients may ask for at all. Everything is closed unless it is opened here; permission and scope decide besides. A
 * table that is not opened cannot be told from one that does not exist. Immutable; for all threads.
 */
public final class Exposure {

    private final Map<String, Set<Exposed>> tables;
    private final Set<String> conditions;
    private final Set<String> deletions;

    private Exposure(Builder builder) {
        this.tables = Map.copyOf(builder.tables);
        this.conditions = Set.copyOf(builder.conditions);
        this.deletions = Set.copyOf(builder.deletions);
    }

    /** Opens what the builder is told. */
    public static Exposure build(UnaryOperator<Builder> opening) {
        return new Exposure(Arguments.notNull(opening, "opening").apply(new Builder()));
    }

    /** Says what is open; for one thread. */
    public static final class Builder {

        private final Map<String, Set<Exposed>> tables = new LinkedHashMap<>();
        private final Set<String> conditions = new HashSet<>();
        private final Set<String> deletions = new HashSet<>();

        Builder() {}

        /** Opens operations on rows of a table that a client names by their keys. */
        public Builder table(String table, Exposed... operations) {
            Arguments.notBlank(table, "table");
            if (Arguments.notNull(operations, "operations").length == 0) {
                throw new MisuseException(
                        "Nothing of table " + table + " is opened.", "Say what is, such as Exposed.DELETE.");
            }
            Set<Exposed> open = tables.computeIfAbsent(key(table), name -> EnumSet.noneOf(Exposed.class));
            for (Exposed operation : operations) {
                open.add(Arguments.notNull(operation, "operation"));
            }
            return this;
        }

        /** Lets clients select rows of a table by a condition (CQL2) as well, for the operations that are open on it. */
        public Builder conditions(String table) {
            conditions.add(key(Arguments.notBlank(table, "table")));
            return this;
        }

        /** Opens a deletion of the rule book, with values of the client's for its parameters. */
        public Builder deletion(String name) {
            deletions.add(Arguments.notBlank(name, "name"));
            return this;
        }
    }

    private static String key(String table) {
        return table.toLowerCase(Locale.ROOT);
    }

    /**
     * Holds it against the database and the rule book, so that a slip is found when the application starts.
     *
     * @throws MisuseException if there is no such table or deletion
     */
    void fit(ResolvedRules rules) {
        tables.keySet().forEach(rules.schema()::table);
        conditions.forEach(rules.schema()::table);
        deletions.forEach(rules::deletion);
    }

    /** Whether something is open on a table. */
    public boolean opens(TableName table, Exposed what) {
        Arguments.notNull(what, "what");
        return tables.entrySet().stream()
                .anyMatch(entry -> table.is(entry.getKey()) && entry.getValue().contains(what));
    }

    /** Whether an operation is open on a table. */
    public boolean opens(TableName table, Operation operation) {
        Exposed what = Exposed.by(Arguments.notNull(operation, "operation"));
        return what != null && opens(Arguments.notNull(table, "table"), what);
    }

    /** Whether rows of a table may be selected by a client's condition. */
    public boolean opensConditions(TableName table) {
        return conditions.stream().anyMatch(table::is);
    }

    /** Whether a deletion of the rule book is open. */
    public boolean opensDeletion(String name) {
        return deletions.contains(Arguments.notNull(name, "name"));
    }
}
