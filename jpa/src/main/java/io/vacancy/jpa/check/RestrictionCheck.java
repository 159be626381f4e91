// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.check;

import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.schema.Table;
import java.util.List;
import org.hibernate.annotations.SQLRestriction;
import org.jspecify.annotations.Nullable;

/** Holds the restriction that an entity puts on its own queries against its marker. */
record RestrictionCheck(
        MappedEntity entity, Table table, @Nullable ResolvedMarker marker) {

    List<Problem> problems() {
        String restriction = restriction();
        if (marker == null) {
            return List.of();
        }
        String active = ConditionText.of(marker.active());
        if (restriction == null) {
            return List.of(new Problem(
                    false,
                    "Queries of " + entity.name()
                            + " find soft-deleted rows as well. Where they should not, restrict the entity:"
                            + " @SQLRestriction(\"" + active.replace("\"", "\\\"") + "\").",
                    null));
        }
        Condition said;
        try {
            said = SearchCondition.read(restriction).readFor(table);
        } catch (MisuseException notComparable) {
            return List.of(new Problem(
                    false,
                    "The restriction of " + entity.name() + ", " + restriction
                            + ", cannot be compared with what its marker says: " + active + ".",
                    null));
        }
        return said.equals(marker.active())
                ? List.of()
                : List.of(new Problem(
                        true,
                        "Queries of " + entity.name() + " find the rows with " + restriction
                                + ", and its marker says that active" + " rows are those with " + active
                                + ". Let both say the same.",
                        null));
    }

    private @Nullable String restriction() {
        for (Class<?> each = entity.type(); each != null; each = each.getSuperclass()) {
            SQLRestriction said = each.getAnnotation(SQLRestriction.class);
            if (said != null) {
                return said.value();
            }
        }
        return null;
    }
}
