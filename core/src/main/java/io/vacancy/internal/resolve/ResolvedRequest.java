// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A request of which everything is decided that it leaves to the rule book, the archive or a receipt.
 *
 * @param request as it was made
 * @param operation what is done
 * @param table the selected table
 * @param selection which of its rows
 * @param narrowing what leaves some of them out
 * @param planned what the store has to do
 * @param rules the request's own rules, by the written form of the relation
 * @param merge what a merge does; null for any other operation
 * @param others what else is selected, each from a table of its own and in the same way
 */
public record ResolvedRequest(
        Request request,
        OperationKind operation,
        Table table,
        Selection selection,
        Narrowing narrowing,
        PlannedOperation planned,
        Map<String, String> rules,
        @Nullable ResolvedMerge merge,
        List<ResolvedRequest> others) {

    public ResolvedRequest {
        others = List.copyOf(others);
    }

    /** This and what else is selected. */
    public List<ResolvedRequest> each() {
        List<ResolvedRequest> each = new ArrayList<>(List.of(this));
        each.addAll(others);
        return each;
    }

    /** The same with more that is selected. */
    public ResolvedRequest plus(List<ResolvedRequest> more) {
        return new ResolvedRequest(request, operation, table, selection, narrowing, planned, rules, merge, more);
    }

    /** The archived rows that it is about, or null. */
    public @Nullable ArchiveSelection archived() {
        return planned.archived();
    }

    /** The same with other words for what it selects, the rules that it has and what it merges into, to be told. */
    public ResolvedRequest told(
            Selection selected, Narrowing narrowed, Map<String, String> written, @Nullable ResolvedMerge merged) {
        return new ResolvedRequest(request, operation, table, selected, narrowed, planned, written, merged, others);
    }

    /** The same with something else for the store to do. */
    public ResolvedRequest planned(PlannedOperation other) {
        return new ResolvedRequest(request, operation, table, selection, narrowing, other, rules, merge, others);
    }
}
