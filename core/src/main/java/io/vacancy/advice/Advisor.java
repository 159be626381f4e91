package io.vacancy.advice;

import io.vacancy.rules.Rules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.store.Definition;
import io.vacancy.store.Store;
import java.util.ArrayList;
import java.util.List;

/** Looks for what is worth mending in a database; changes nothing. */
public final class Advisor {

    private final Rules rules;
    private final Store store;

    public Advisor(Rules rules, Store store) {
        this.rules = rules;
        this.store = store;
    }

    /** Everything that was found, by kind. */
    public List<Advice> all() {
        return indexes();
    }

    /** The relations by which child rows have to be looked for in the whole table, whenever a parent goes. */
    public List<Advice> indexes() {
        List<Advice> advice = new ArrayList<>();
        for (Relation relation : rules.schema().relations()) {
            Table child = rules.schema().table(relation.child());
            if (!child.view() && !child.indexed(relation.childColumns())) {
                advice.add(new Advice(
                        Advice.Kind.NO_INDEX,
                        child.name(),
                        relation.name(),
                        "No index leads to the rows of " + child + " by " + String.join(", ", relation.childColumns())
                                + ": the whole table is read whenever a row of " + relation.parent() + " goes.",
                        store.written(new Definition.Index(child.name(), relation.childColumns()))));
            }
        }
        return advice;
    }
}
