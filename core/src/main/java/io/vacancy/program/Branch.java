package io.vacancy.program;

import io.vacancy.condition.Condition;
import io.vacancy.rules.Fate;
import io.vacancy.schema.Relation;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One rule of one relation: what becomes of those child rows, of parents that go, for which it is the first
 * that holds.
 *
 * @param which the condition on the child row that says so, never unknown; null for every row
 * @param waysOut of a branch that blocks, the rules that a request may put in its place, as they are written
 */
public record Branch(Relation relation, Fate fate, @Nullable Condition which, List<String> waysOut) {

    public Branch {
        waysOut = List.copyOf(waysOut);
    }
}
