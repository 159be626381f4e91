package io.vacancy;

import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.Wording;
import io.vacancy.question.Question;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Holds what a store found against permissions, guards and blockers, and makes a preview of it.
 *
 * @param scoped whether the actor may not see all of the selected table
 */
record Judging(
        Request request, Table table, Mode mode, String actor, boolean scoped, Rules rules, Permission permission) {

    Preview judge(Findings found) {
        String forbidden = forbidden(found, effect -> Act.LOOK);
        if (forbidden != null) {
            return withheld(forbidden);
        }
        State state = State.READY;
        String refusal = null;
        if (found.selected() == 0) {
            // Everything that was selected is spared, and so nothing can go.
            state = found.spared().rows() > 0 || !found.blockers().isEmpty() ? State.BLOCKED : State.NOTHING;
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
                ? wording.ask(request, table, mode, found)
                : wording.none("Nothing to ask: the request is " + state.word() + ".", found);
        return new Preview(request, table.name(), mode, state, refusal, found, question);
    }

    /** What a guard says against it, or null. */
    private @Nullable String refusal(Findings found) {
        boolean stays = request.selection() instanceof Selection.Orphans orphans && orphans.setNull();
        if (mode == Mode.REPLACE && found.selected() > 1) {
            return Wording.rows(found.selected()) + " of " + table
                    + " are selected, and a successor takes the place of one.";
        }
        boolean goes = mode == Mode.ERASE || mode == Mode.SOFT_DELETE;
        if (rules.neverDeleted(table.name()) && !stays && goes) {
            return "Rows of " + table + " are never deleted.";
        }
        if (!table.identity().exists() && !atOnce() && request.images() == null) {
            return "Table " + table + " has no key by which its rows could be told apart, so nothing can be deleted"
                    + " from it but every row at once.";
        }
        String refusal = atOnce() ? notAtOnce() : null;
        if (refusal == null && request.selection() instanceof Selection.ByMatch && found.selected() > 1) {
            refusal = Wording.rows(found.selected()) + " of " + table + " match " + Wording.selected(request)
                    + ", and a match means exactly one. Say which by its key, or select by a condition.";
        }
        return refusal == null ? new Guards(limits(), rules).refusal(table, found) : refusal;
    }

    /** What the rule book says of rows that go does not bind those that come back, or images. */
    private Limits limits() {
        return request.images() == null ? request.limits().stricter(rules.limits(table.name())) : request.limits();
    }

    private boolean atOnce() {
        return request.selection() instanceof Selection.EveryRow every && every.atOnce();
    }

    private @Nullable String notAtOnce() {
        List<Relation> referring = rules.schema().relationsTo(table.name());
        if (!referring.isEmpty()) {
            return "Table " + table + " cannot be emptied at once, because "
                    + referring.stream().map(Relation::name).collect(Collectors.joining(", "))
                    + (referring.size() == 1 ? " refers" : " refer")
                    + " to it. Remove every row with its rules instead.";
        }
        return scoped
                ? "Table " + table + " cannot be emptied at once by somebody who may not see all of it. Remove every"
                        + " row that is seen instead."
                : null;
    }

    /** Why the actor may not do this to the selected table, or null. */
    @Nullable
    String forbidden(Act act) {
        return permission.refusal(actor, table.name(), act);
    }

    /** Why the actor may not do this to a table that is affected, or null. */
    @Nullable
    String forbidden(Findings found) {
        return forbidden(found, effect -> switch (effect.action()) {
            case DELETE -> Act.ERASE;
            case SOFT_DELETE -> Act.SOFT_DELETE;
            case RESTORE -> Act.RESTORE;
            case SET_NULL, REASSIGN, REPLACE, RELINK -> Act.CHANGE;
            case PURGE -> Act.PURGE;
        });
    }

    private @Nullable String forbidden(Findings found, Function<Effect, Act> act) {
        for (Effect effect : found.effects()) {
            String refusal = permission.refusal(actor, effect.table(), act.apply(effect));
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
