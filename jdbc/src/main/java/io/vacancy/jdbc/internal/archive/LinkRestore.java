// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.schema.Relation;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * A link that is to hold again what it held before.
 *
 * @param columns those of the link that were written
 */
record LinkRestore(StagingTable stage, Relation relation, List<String> columns) {

    /** The column of the stage that has what the link held; of a column that was not written, what it holds. */
    private String old(String column, Dialect dialect) {
        return columns.contains(column)
                ? "t." + dialect.syntax().quote(ArchivedColumn.OLD + column)
                : "(SELECT c." + dialect.syntax().quote(column) + " FROM "
                        + dialect.syntax().table(stage.table().name()) + " c WHERE " + stage.same("c", "t") + ")";
    }

    /** That the row under an alias is the parent that row t of the stage referred to. */
    String refersTo(String alias, Dialect dialect) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < relation.childColumns().size(); i++) {
            parts.add(alias + "."
                    + dialect.syntax().quote(relation.parentColumns().get(i)) + " = "
                    + old(relation.childColumns().get(i), dialect));
        }
        return String.join(" AND ", parts);
    }

    /** That row t of the stage referred to anything. */
    String refers(Dialect dialect) {
        return relation.childColumns().stream()
                .map(column -> old(column, dialect) + " IS NOT NULL")
                .collect(Collectors.joining(" AND "));
    }

    /** That the row under an alias still holds what was written into its link. */
    String untouched(String alias, Dialect dialect) {
        return columns.stream()
                .map(column -> {
                    String now = alias + "." + dialect.syntax().quote(column);
                    String written = "t." + dialect.syntax().quote(ArchivedColumn.WRITTEN + column);
                    return "(" + now + " = " + written + " OR (" + now + " IS NULL AND " + written + " IS NULL))";
                })
                .collect(Collectors.joining(" AND "));
    }
}
