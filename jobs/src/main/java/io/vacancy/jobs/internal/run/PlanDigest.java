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
 * Digests (SHA-256) of the tables that a request can reach, and of the rules on them, so that a job is carried out under
 * just those that it was ordered under, whichever node does it.
 *
 * @param tables of the tables and relations as the database has them
 * @param rules of the rules that hold on them
 */
public record PlanDigest(String tables, String rules) {

    /** Of what a deletion can reach. */
    public static PlanDigest of(ResolvedRules rules, TableName root, Request request) {
        boolean marks = request.operation() instanceof Operation.SoftDelete
                || (request.operation() instanceof Operation.Delete && rules.usualMode(root) == Mode.SOFT_DELETE);
        Telling telling = new Telling(rules, marks ? OperationKind.SOFT_DELETE : OperationKind.ERASE);
        telling.rules.append(telling.mode).append(request.rules()).append('\n');
        Deque<TableName> open = new ArrayDeque<>(List.of(root));
        Set<TableName> known = new LinkedHashSet<>(open);
        while (!open.isEmpty()) {
            TableName table = open.remove();
            telling.tell(rules.schema().table(table));
            rules.schema().relationsTo(table).stream()
                    .sorted(Comparator.comparing(Relation::toString))
                    .forEach(relation -> {
                        telling.tell(relation);
                        if (known.add(relation.child())) {
                            open.add(relation.child());
                        }
                    });
        }
        return new PlanDigest(digest(telling.tables), digest(telling.rules));
    }

    private static String digest(StringBuilder told) {
        try {
            byte[] hash =
                    MessageDigest.getInstance("SHA-256").digest(told.toString().getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(hash);
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        }
    }

    /** As one text, which {@link #read} reads. */
    public String written() {
        return tables + ":" + rules;
    }

    static PlanDigest read(String written) {
        int colon = written.indexOf(':');
        return new PlanDigest(written.substring(0, colon), written.substring(colon + 1));
    }

    /** What is digested, in words. */
    private record Telling(ResolvedRules resolved, OperationKind mode, StringBuilder tables, StringBuilder rules) {

        Telling(ResolvedRules resolved, OperationKind mode) {
            this(resolved, mode, new StringBuilder(), new StringBuilder());
        }

        private void tell(Table table) {
            TableName name = table.name();
            tables.append("table ")
                    .append(name)
                    .append(' ')
                    .append(table.identity())
                    .append('\n');
            for (Column column : table.columns()) {
                tables.append(column).append('\n');
            }
            rules.append(resolved.usualMode(name))
                    .append(resolved.neverDeleted(name))
                    .append(resolved.retention(name))
                    .append(resolved.limits(name))
                    .append(resolved.archivedWith(name))
                    .append(resolved.marker(name) == null ? "" : "marked")
                    .append('\n');
        }

        private void tell(Relation relation) {
            (relation.enforced() ? tables : rules)
                    .append("relation ")
                    .append(relation)
                    .append('\n');
            rules.append(resolved.rulesFor(relation, mode)).append('\n');
        }
    }
}
