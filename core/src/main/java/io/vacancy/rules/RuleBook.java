package io.vacancy.rules;

import io.vacancy.request.Mode;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * The rules and labels of an application as somebody wrote them, in Java or in a file. Names are looked up
 * when it is fitted to a database; see {@link Rules#fit}. Immutable.
 *
 * @param tables what it says of tables
 * @param relations what it says of relations
 */
public record RuleBook(List<TableEntry> tables, List<RelationEntry> relations) {

    public RuleBook {
        tables = List.copyOf(tables);
        relations = List.copyOf(relations);
    }

    /**
     * What is said of a table.
     *
     * @param label how its rows are called, with columns in braces, or null for the usual label
     * @param mode how its rows usually go, or null for erase
     * @param neverDeletedFrom whether no row of it may ever go
     * @param place where it stands, or null if it was written in Java
     */
    public record TableEntry(
            String table,
            @Nullable String label,
            @Nullable Mode mode,
            boolean neverDeletedFrom,
            @Nullable Place place) {

        /** An entry that says nothing yet. */
        public static TableEntry of(String table) {
            return new TableEntry(table, null, null, false, null);
        }

        /** How rows are called in front of people: {@code {name} ({registration})}. */
        public TableEntry label(String text) {
            return new TableEntry(table, text, mode, neverDeletedFrom, place);
        }

        /** How rows go unless a request says otherwise. */
        public TableEntry mode(Mode usual) {
            return new TableEntry(table, label, usual, neverDeletedFrom, place);
        }

        /** No row may ever go, not even with its parent. */
        public TableEntry neverDeleted() {
            return new TableEntry(table, label, mode, true, place);
        }

        /** Where the entry stands. */
        public TableEntry at(Place where) {
            return new TableEntry(table, label, mode, neverDeletedFrom, where);
        }
    }

    /**
     * What is said of a relation.
     *
     * @param relation its written form; {@code child.column -> parent.column} declares one that the database
     *     has not
     * @param rules tried in order; a row for which none holds follows what the schema declares
     * @param place where it stands, or null if it was written in Java
     */
    public record RelationEntry(
            String relation, List<Rule> rules, @Nullable Place place) {
        public RelationEntry {
            rules = List.copyOf(rules);
        }
    }

    private static final RuleBook EMPTY = new RuleBook(List.of(), List.of());

    /** A rule book that says nothing: everything follows what the schema declares. */
    public static RuleBook empty() {
        return EMPTY;
    }

    /** Writes a rule book in Java. */
    public static RuleBook build(Consumer<Builder> writing) {
        Builder builder = new Builder();
        writing.accept(builder);
        return builder.build();
    }

    /** A rule book being written. */
    public static final class Builder {

        private final List<TableEntry> tables = new ArrayList<>();
        private final List<RelationEntry> relations = new ArrayList<>();

        private Builder() {}

        /** Says something of a table: {@code table("boat", t -> t.label("{name}"))}. */
        public Builder table(String table, UnaryOperator<TableEntry> entry) {
            tables.add(entry.apply(TableEntry.of(table)));
            return this;
        }

        /** Says by which rules child rows of a relation follow, tried in order. */
        public Builder relation(String relation, Rule... rules) {
            relations.add(new RelationEntry(relation, List.of(rules), null));
            return this;
        }

        private RuleBook build() {
            return new RuleBook(tables, relations);
        }
    }
}
