// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The columns in which an application keeps who changed a row, and when.
 *
 * @param changedBy the column for who, or null
 * @param changedAt the column for when, or null
 * @param parents relations to parents whose stamps are set as well
 */
public record AuditColumns(
        @Nullable String changedBy, @Nullable String changedAt, List<String> parents) {

    public AuditColumns {
        Arguments.noneNull(parents, "parents");
        parents = List.copyOf(parents);
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
        return all;
    }
}
