// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.judge;

import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.internal.message.Messages;
import io.vacancy.internal.resolve.ResolvedMerge;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Question;
import io.vacancy.request.Limits;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Holds what a store found against permissions, guards and blockers, and makes a preview of it.
 *
 * @param scoped whether the actor may not see all of the selected table
 * @param savedTo what the copy outside the database is called that will be made, or null
 */
public record PreviewFactory(
        ResolvedRequest resolved,
        String actor,
        boolean scoped,
        ResolvedRules rules,
        Permission permission,
        @Nullable String savedTo) {

    public Preview judge(Impact impact) {
        Impact found = impact.savedTo(savedTo);
        String forbidden = forbidden(found, effect -> Act.LOOK);
        if (forbidden != null) {
            return withheld(forbidden);
        }
        State state = State.READY;
        String refusal = null;
        if (found.selected() == 0 && resolved.operation() != OperationKind.DROP) {
            // Everything that was selected is skipped, and so nothing can be done.
            state = found.skipped().rows() > 0 || !found.blockers().isEmpty() ? State.BLOCKED : State.NOTHING;
        } else {
            refusal = refusal(found);
            if (refusal != null) {
                state = State.REFUSED;
            } else if (!found.blockers().isEmpty()) {
                state = State.BLOCKED;
            }
        }
        return preview(state, refusal, found);
    }

    private Preview preview(State state, @Nullable String refusal, Impact found) {
        Messages messages = new Messages(rules);
        // Nobody was asked about what is not ready, so its fingerprint is no key to what is ready by then.
        Impact shown = state == State.READY
                ? found
                : found.withFingerprint(Fingerprint.joined(
                        state.word(), found.fingerprint().isEmpty() ? "withheld" : found.fingerprint()));
        Question question = state == State.READY
                ? messages.ask(resolved, shown)
                : messages.none("Nothing to ask: the request is " + state.word() + ".", shown);
        return Preview.of(new Preview.Data(
                resolved.request(),
                resolved.table().name(),
                resolved.operation(),
                state,
                refusal,
                shown,
                question,
                state == State.READY ? approval(shown) : null,
                null,
                messages.title(resolved, shown),
                Messages.selected(resolved)));
    }

    private @Nullable String approval(Impact found) {
        long affected =
                found.totals().values().stream().mapToLong(Long::longValue).sum();
        return resolved.each().stream()
                .map(each -> rules.approval(each.table().name(), each.operation(), affected))
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
    }

    /** Why the selected row cannot be merged, or null. */
    private @Nullable String merged(ResolvedMerge merge, Impact found) {
        Table table = resolved.table();
        if (found.selected() > 1) {
            return CountText.rows(found.selected()) + " of " + table + " are selected, and one is merged at a time.";
        }
        boolean same = found.records().stream().anyMatch(row -> table.identity().columns().stream()
                .map(row::get)
                .toList()
                .equals(merge.key()));
        return same ? "The row is the one that it is to be merged into." : null;
    }

    /** What a guard says against it, or null. */
    private @Nullable String refusal(Impact found) {
        Table table = resolved.table();
        OperationKind operation = resolved.operation();
        boolean archived = resolved.archived() != null;
        if (operation == OperationKind.REPLACE && found.selected() > 1) {
            return CountText.rows(found.selected()) + " of " + table
                    + " are selected, and a successor takes the place of one.";
        }
        if (resolved.merge() != null) {
            String refusal = merged(resolved.merge(), found);
            if (refusal != null) {
                return refusal;
            }
        }
        for (ResolvedRequest each : resolved.each()) {
            String refusal = refusal(each.table(), operation, archived);
            if (refusal != null) {
                return refusal;
            }
        }
        List<TableName> hiding = found.hiding().stream()
                .filter(each -> !rules.nothingHidden(each))
                .toList();
        if (!hiding.isEmpty() && !archived) {
            String tables = hiding.stream().map(TableName::toString).collect(Collectors.joining(", "));
            return "A row security policy may hide rows of " + tables
                    + " from this database user, and the database would"
                    + " delete or change those that nobody sees. Use a user from whom nothing is hidden, or have the rule"
                    + " book say nothing-hidden of " + tables + ".";
        }
        for (Effect effect : archived ? List.<Effect>of() : found.effects()) {
            String inherited = inherited(rules.schema().table(effect.table()), operation);
            if (inherited != null) {
                return inherited;
            }
        }
        String refusal = operation == OperationKind.TRUNCATE ? notAtOnce() : null;
        for (ResolvedRequest each : resolved.each()) {
            refusal = refusal == null ? ambiguous(each, found) : refusal;
        }
        return refusal == null ? guarded(found) : refusal;
    }

    private @Nullable String refusal(Table table, OperationKind operation, boolean archived) {
        boolean whole = operation == OperationKind.TRUNCATE || operation == OperationKind.DROP;
        if (rules.neverDeleted(table.name()) && (operation.deletes() || operation == OperationKind.DROP)) {
            return "Rows of " + table + " are never deleted.";
        }
        if (rules.neverEmptied(table.name()) && operation == OperationKind.DROP && !dropsColumn()) {
            return "Table " + table + " is never to be emptied.";
        }
        return !table.identity().exists() && !whole && !archived
                ? "Table " + table + " has no key by which its rows could be told apart, so nothing can be deleted"
                        + " from it but every row at once."
                : null;
    }

    /** Why a match that means one row does not, or null. */
    private static @Nullable String ambiguous(ResolvedRequest each, Impact found) {
        long selected = found.selectedOf(each.table().name());
        return each.selection() instanceof Selection.ByMatch && selected > 1
                ? CountText.rows(selected) + " of " + each.table() + " match " + Messages.selectedAlone(each)
                        + ", and a match means exactly one. Say which by its key, or select by a condition."
                : null;
    }

    /** Which limit refuses it and why, or null: those of the request for all it selects, those of a table for its own rows. */
    private @Nullable String guarded(Impact found) {
        Limits own = limits();
        String all =
                resolved.each().stream().map(each -> each.table().toString()).collect(Collectors.joining(" and "));
        String refusal = new Guards(own, all).refusal(found.selected(), found);
        for (ResolvedRequest each : resolved.each()) {
            TableName table = each.table().name();
            Limits limits = resolved.archived() == null ? rules.limits(table) : Limits.NONE;
            Guards guards = new Guards(limits, table.toString());
            refusal = refusal == null ? guards.refusal(found.selectedOf(table), found) : refusal;
            refusal = refusal == null ? new Guards(own.stricter(limits), all).refusalOfPart(table, found) : refusal;
        }
        return refusal == null ? Guards.emptied(rules, found) : refusal;
    }

    /** Rows of tables that inherit are kept with all their columns, but nothing follows the relations to them. */
    private @Nullable String inherited(Table table, OperationKind operation) {
        for (String heir : table.heirs()) {
            Table other = rules.schema().table(heir);
            List<Relation> relations = rules.schema().relationsTo(other.name());
            if (!relations.isEmpty() || operation == OperationKind.TRUNCATE || operation == OperationKind.DROP) {
                return "Rows of " + table + " may be rows of " + heir + ", which inherits from it"
                        + (relations.isEmpty() ? "" : ", and to which " + relations.get(0) + " refers")
                        + ". Delete rows of " + heir + " from there first, and then those of " + table
                        + " that are no others' by a condition.";
            }
            String further = inherited(other, operation);
            if (further != null) {
                return further;
            }
        }
        return null;
    }

    /** The request's own limits, with those of its named deletion as the rule book has it now. */
    private Limits limits() {
        Limits limits = resolved.request().limits();
        String deletion = resolved.request().deletion();
        return deletion == null
                ? limits
                : limits.stricter(rules.deletion(deletion).limits());
    }

    private @Nullable String notAtOnce() {
        Table table = resolved.table();
        List<Relation> referring = rules.schema().relationsTo(table.name());
        if (!referring.isEmpty()) {
            return "Table " + table + " cannot be emptied at once, because "
                    + referring.stream().map(Relation::name).collect(Collectors.joining(", "))
                    + (referring.size() == 1 ? " refers" : " refer")
                    + " to it. Remove every row with its rules instead.";
        }
        return null;
    }

    /** Why the actor may not do this to the selected tables, whatever is in them; or null. */
    @Nullable
    public String forbidden(Act act) {
        String refusal = permission.refusal(actor, resolved.table().name(), act);
        for (ResolvedRequest other : resolved.others()) {
            Act same = act == Act.of(resolved.operation()) ? Act.of(other.operation()) : act;
            refusal = refusal == null ? permission.refusal(actor, other.table().name(), same) : refusal;
        }
        if (refusal != null || !scoped) {
            return refusal;
        }
        return switch (resolved.operation()) {
            case TRUNCATE ->
                "Table " + resolved.table()
                        + " cannot be emptied at once by somebody who may not see all of it. Remove"
                        + " every row that is seen instead.";
            case DROP ->
                "Neither table " + resolved.table()
                        + " nor a column of it can be dropped by somebody who may not see all of it.";
            default -> null;
        };
    }

    /** Why the actor may not do this to a table that is affected, or null. */
    @Nullable
    public String forbidden(Impact found) {
        return forbidden(found, effect -> switch (effect.action()) {
            case DELETE ->
                resolved.operation() == OperationKind.TRUNCATE
                        ? Act.TRUNCATE
                        : merged(effect) ? Act.MERGE : forgotten(effect) ? Act.FORGET : Act.ERASE;
            case SOFT_DELETE -> merged(effect) ? Act.MERGE : Act.SOFT_DELETE;
            case RESTORE -> Act.RESTORE;
            case REPLACE -> Act.REPLACE;
            case SET_NULL, REASSIGN, RELINK -> Act.CHANGE_LINKS;
            case BLANK -> forgotten(effect) ? Act.FORGET : Act.BLANK;
            case PUT_BACK -> Act.BLANK;
            case KEEP -> Act.LOOK;
            case DROP -> Act.DROP;
            case PURGE -> Act.PURGE;
        });
    }

    private boolean dropsColumn() {
        return resolved.planned() instanceof PlannedOperation.Drop drop && drop.column() != null;
    }

    private boolean forgotten(Effect effect) {
        return resolved.operation() == OperationKind.FORGET && effect.relation() == null;
    }

    private boolean merged(Effect effect) {
        return resolved.merge() != null && effect.relation() == null;
    }

    private @Nullable String forbidden(Impact found, Function<Effect, Act> act) {
        for (Effect effect : found.effects()) {
            String refusal = permission.refusal(actor, effect.table(), act.apply(effect));
            if (refusal != null) {
                return refusal;
            }
        }
        return null;
    }

    /** What a question was about that was answered by a no, as far as it is told without looking at its rows once more. */
    public Preview declined(Question question) {
        return Preview.of(new Preview.Data(
                resolved.request(),
                resolved.table().name(),
                resolved.operation(),
                State.READY,
                null,
                Impact.nothing(),
                question,
                null,
                null,
                question.title(),
                Messages.selected(resolved)));
    }

    /** What is shown to somebody who may see nothing of it. */
    public Preview withheld(String refusal) {
        return preview(State.REFUSED, refusal, Impact.nothing());
    }
}
