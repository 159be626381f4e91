package io.vacancy;

import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.Wording;
import io.vacancy.question.Question;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Table;
import org.jspecify.annotations.Nullable;

/** Holds what a store found against permissions, guards and blockers, and makes a preview of it. */
record Judging(Request request, Table table, Mode mode, String actor, Rules rules, Permission permission) {

    Preview judge(Findings found) {
        String forbidden = forbidden(found, Act.LOOK, Act.LOOK);
        if (forbidden != null) {
            return withheld(forbidden);
        }
        State state = State.READY;
        String refusal = null;
        if (found.selected() == 0) {
            state = State.NOTHING;
        } else {
            refusal = refusal(found);
            if (refusal != null) {
                state = State.REFUSED;
            } else if (!found.blockers().isEmpty()) {
                state = State.BLOCKED;
            }
        }
        Wording wording = new Wording(rules);
        Question question = state == State.READY
                ? wording.ask(table, mode, found)
                : wording.none("Nothing to ask: the request is " + state.word() + ".", found);
        return new Preview(request, table.name(), mode, state, refusal, found, question);
    }

    /** What a guard says against it, or null. */
    private @Nullable String refusal(Findings found) {
        if (rules.neverDeleted(table.name())) {
            return "Rows of " + table + " are never deleted.";
        }
        if (!table.identity().exists()) {
            return "Table " + table + " has no key by which its rows could be told apart, so nothing can be deleted"
                    + " from it.";
        }
        Long expected = request.expect();
        return expected == null || expected == found.selected()
                ? null
                : Wording.rows(expected) + " of " + table + (expected == 1 ? " was" : " were")
                        + " expected, but the selection has " + Wording.rows(found.selected()) + ".";
    }

    /** Why the actor may not do this to the selected table, or null. */
    @Nullable
    String forbidden(Act act) {
        return permission.refusal(actor, table.name(), act);
    }

    /** Why the actor may not do this to a table that is affected, or null. */
    @Nullable
    String forbidden(Findings found, Act going, Act changing) {
        for (Effect effect : found.effects()) {
            boolean goes = effect.action() == Action.DELETE || effect.action() == Action.SOFT_DELETE;
            String refusal = permission.refusal(actor, effect.table(), goes ? going : changing);
            if (refusal != null) {
                return refusal;
            }
        }
        return null;
    }

    /** What is shown to somebody who may see nothing of it. */
    Preview withheld(String refusal) {
        Findings nothing = Findings.withheld();
        Question question = new Wording(rules).none("Nothing to ask: the request is refused.", nothing);
        return new Preview(request, table.name(), mode, State.REFUSED, refusal, nothing, question);
    }
}
