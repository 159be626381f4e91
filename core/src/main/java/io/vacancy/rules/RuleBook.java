package io.vacancy.rules;

import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;

/** The rules and labels of an application. Immutable; one serves all threads. */
public final class RuleBook {

    private static final RuleBook EMPTY = new RuleBook();

    private RuleBook() {}

    /** A rule book that says nothing: everything follows what the schema declares. */
    public static RuleBook empty() {
        return EMPTY;
    }

    /** The rule that holds on a relation. */
    public Rule ruleFor(Relation relation) {
        return Rule.declaredBy(relation);
    }

    /** What a row of a table is called in front of people. */
    public String label(Table table, Row row) {
        return Label.usual(table).of(row);
    }
}
