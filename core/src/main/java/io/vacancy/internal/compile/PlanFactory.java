// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.resolve.ResolvedMerge;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Detail;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RequestKey;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Compiles resolved requests: every name looked up, every value of its column's type.
 *
 * @param lockTimeout of requests that do not say one
 */
public record PlanFactory(
        ResolvedRules rules,
        Compiler compiler,
        AccessRights visible,
        Clock clock,
        Attribution who,
        @Nullable Duration lockTimeout) {

    /**
     * What a request would do, to be looked at.
     *
     * @param detail how much is to be told of what is found
     * @param judged whether a question about it is judged
     */
    public ExecutionPlan plan(ResolvedRequest request, Detail detail, boolean judged) {
        Instant now = clock.instant();
        return plan(request, detail, judged, ReceiptId.next(now), now, null);
    }

    /** The selected rows alone, only to be counted. */
    public ExecutionPlan alone(ResolvedRequest request) {
        Program program = Program.alone(rules.schema(), request.table().name(), request.operation());
        return looking(request, rules, program);
    }

    /** Everything that belongs to the selected person, to be looked at. */
    public ExecutionPlan belonging(ResolvedRequest request) {
        ResolvedRules own = rules.belonging(request.table().name());
        return looking(request, own, new Compiler(own).compile(request.table().name(), OperationKind.ERASE));
    }

    private ExecutionPlan looking(ResolvedRequest request, ResolvedRules own, Program program) {
        Instant now = clock.instant();
        return new Compilation(own, visible, fixed(now), ReceiptId.next(now), who, lockTimeout, request, program)
                .plan(Detail.COUNTS, false, null);
    }

    /** The same to be carried out under a receipt; everything that is written with it bears the same time. */
    public ExecutionPlan plan(
            ResolvedRequest request,
            Detail detail,
            boolean judged,
            ReceiptId receipt,
            Instant at,
            @Nullable RequestKey key) {
        OperationKind mode =
                switch (request.operation()) {
                    case TRUNCATE, DROP, UNLINK_ORPHANS -> OperationKind.ERASE;
                    case MERGE -> rules.usualMode(request.table().name()).operation();
                    case FORGET -> rules.modeOfPerson(request.table().name());
                    default -> request.operation();
                };
        ResolvedRules own = rules(request, mode);
        Compiler compiles = own == rules ? compiler : new Compiler(own);
        boolean alone = request.planned().selectsArchived() || request.operation() == OperationKind.DROP;
        Program program = alone
                ? Program.alone(own.schema(), request.table().name(), mode)
                : compiles.compile(request.table().name(), modes(request, mode));
        return new Compilation(own, visible, fixed(at), receipt, who, lockTimeout, request, program)
                .plan(detail, judged, key);
    }

    private static Map<TableName, OperationKind> modes(ResolvedRequest request, OperationKind first) {
        Map<TableName, OperationKind> modes = new LinkedHashMap<>();
        modes.put(request.table().name(), first);
        request.others().forEach(other -> modes.put(other.table().name(), other.operation()));
        return modes;
    }

    /** The rules that hold for a request: those of the rule book, but for what the request itself says or means. */
    private ResolvedRules rules(ResolvedRequest request, OperationKind mode) {
        if (request.operation() == OperationKind.FORGET) {
            return rules.forgetting(request.table().name());
        }
        boolean alike = request.others().stream().allMatch(other -> other.operation() == mode);
        if (!alike && !request.request().rules().isEmpty()) {
            throw new MisuseException(
                    "The request has rules of its own, and rows of one of its tables are erased and of another one"
                            + " soft-deleted.",
                    "Say in the rule book what becomes of child rows, or make a request of each.");
        }
        ResolvedMerge merge = request.merge();
        ResolvedRules asked = rules.with(request.request().rules(), mode);
        return merge == null ? asked : asked.withInstead(merge.rules(), mode);
    }

    private Clock fixed(Instant at) {
        return Clock.fixed(at, clock.getZone());
    }
}
