// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * The columns in which an application keeps who changed a row, when, and how often.
 *
 * @param changedBy the column for who, or null
 * @param changedAt the column for when, or null
 * @param version the column by which whoever changes a row finds out that somebody else has, as an object-relational
 *     mapper does; or null
 * @param parents relations to parents whose stamps are set as well
 */
public record AuditColumns(
        @Nullable String changedBy,
        @Nullable String changedAt,
        @Nullable String version,
        List<String> parents) {

    /** None yet. */
    static final AuditColumns NONE = new AuditColumns(null, null, null, List.of());

    public AuditColumns {
        Arguments.noneNull(parents, "parents");
        parents = List.copyOf(parents);
    }

    /** The same with other names of its columns. */
    AuditColumns replaceColumns(UnaryOperator<String> change) {
        return new AuditColumns(
                changedBy == null ? null : change.apply(changedBy),
                changedAt == null ? null : change.apply(changedAt),
                version == null ? null : change.apply(version),
                parents);
    }

    /** What is written into a row that somebody changes. */
    public List<Assignment> by(String actor, Object now) {
        List<Assignment> all = new ArrayList<>();
        if (changedBy != null) {
            all.add(new Assignment(changedBy, actor));
        }
        if (changedAt != null) {
            all.add(new Assignment(changedAt, now));
        }
        if (version != null) {
            all.add(new Assignment(version, RaisedVersion.NEXT));
        }
        return all;
    }
}
