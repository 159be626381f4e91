// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.request.Mode;
import io.vacancy.request.Operation;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.HexFormat;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * A digest (SHA-256) of the tables that a request can reach and of the rules on them, so that a job is carried out under
 * just those that it was ordered under, whichever node does it.
 */
public final class PlanDigest {

    private final ResolvedRules rules;
    private final OperationKind mode;
    private final StringBuilder told = new StringBuilder();

    private PlanDigest(ResolvedRules rules, OperationKind mode) {
        this.rules = rules;
        this.mode = mode;
    }

    /** Of what a deletion can reach. */
    public static String of(ResolvedRules rules, TableName root, Request request) {
        boolean marks = request.operation() instanceof Operation.SoftDelete
                || (request.operation() instanceof Operation.Delete && rules.usualMode(root) == Mode.SOFT_DELETE);
        OperationKind mode = marks ? OperationKind.SOFT_DELETE : OperationKind.ERASE;
        PlanDigest digest = new PlanDigest(rules, mode);
        digest.told.append(mode).append(request.rules()).append('\n');
        Deque<TableName> open = new ArrayDeque<>(List.of(root));
        Set<TableName> known = new LinkedHashSet<>(open);
        while (!open.isEmpty()) {
            TableName table = open.remove();
            digest.tell(rules.schema().table(table));
            rules.schema().relationsTo(table).stream()
                    .sorted(Comparator.comparing(Relation::toString))
                    .forEach(relation -> {
                        digest.tell(relation);
                        if (known.add(relation.child())) {
                            open.add(relation.child());
                        }
                    });
        }
        try {
            byte[] hash = MessageDigest.getInstance("SHA-256")
                    .digest(digest.told.toString().getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(hash);
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        }
    }

    private void tell(Table table) {
        TableName name = table.name();
        told.append("table ").append(name).append(' ').append(table.identity()).append('\n');
        for (Column column : table.columns()) {
            told.append(column).append('\n');
        }
        told.append(rules.usualMode(name))
                .append(rules.neverDeleted(name))
                .append(rules.retention(name))
                .append(rules.limits(name))
                .append(rules.archivedWith(name))
                .append(rules.marker(name) == null ? "" : "marked")
                .append('\n');
    }

    private void tell(Relation relation) {
        told.append("relation ")
                .append(relation)
                .append(relation.enforced())
                .append(rules.rulesFor(relation, mode))
                .append('\n');
    }
}
