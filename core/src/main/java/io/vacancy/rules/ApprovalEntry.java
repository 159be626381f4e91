// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.SourceLocation;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.OperationKind;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is carried out only once somebody else than the one who asks has approved it. It applies where all that it says is
 * so.
 *
 * @param table only of rows selected from this table, or null for any
 * @param operation only of this operation, or null for every one by which something is lost
 * @param above only if more rows than this would be affected in total, or null for any number
 * @param place where it stands, or null if it was written in Java
 */
public record ApprovalEntry(
        @Nullable String table,
        @Nullable OperationKind operation,
        @Nullable Long above,
        @Nullable SourceLocation place) {

    /** Of every request by which something is lost. */
    public static final ApprovalEntry ANY = new ApprovalEntry(null, null, null, null);

    /** Only of rows selected from this table. */
    public ApprovalEntry table(String name) {
        return new ApprovalEntry(Arguments.notBlank(name, "name"), operation, above, place);
    }

    /** Only of this operation. */
    public ApprovalEntry operation(OperationKind kind) {
        return new ApprovalEntry(table, Arguments.notNull(kind, "kind"), above, place);
    }

    /** Only if more rows than this would be affected in total. */
    public ApprovalEntry above(long rows) {
        return new ApprovalEntry(table, operation, rows, place);
    }

    /** Whether the operation is one that it applies to. */
    boolean appliesTo(OperationKind kind) {
        return operation == null ? kind.loses() || kind == OperationKind.PURGE : operation == kind;
    }

    /** What it applies to, for people: {@code erase, boat, more than 100 rows}. */
    String told() {
        List<String> parts = new ArrayList<>();
        if (operation != null) {
            parts.add(operation.word());
        }
        if (table != null) {
            parts.add(table);
        }
        if (above != null) {
            parts.add("more than " + above + (above == 1 ? " row" : " rows"));
        }
        return parts.isEmpty() ? "the rule book asks for it always" : String.join(", ", parts);
    }
}
