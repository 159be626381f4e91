// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.preview.Action;
import io.vacancy.schema.Relation;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Columns of rows that stayed, which are to hold again what they held before: a link, or what was blanked.
 *
 * @param kind {@code LINKS} or {@code VALUES}
 * @param relation the link, or that through which the blanked rows were reached; null where these were selected
 * @param columns those that were written
 */
record ColumnRestore(
        StagingTable stage,
        ArchivedRows.Kind kind,
        @Nullable Relation relation,
        List<String> columns) {

    boolean link() {
        return kind == ArchivedRows.Kind.LINKS;
    }

    /** What happens to the rows. */
    Action action() {
        return link() ? Action.RELINK : Action.PUT_BACK;
    }

    /** What they hold something else in by now, for people. */
    String named() {
        return link() ? String.valueOf(relation) : String.join(", ", columns);
    }

    @Nullable
    String relationName() {
        return relation == null ? null : relation.name();
    }

    /** The relation of a link, which always has one. */
    private Relation ofLink() {
        return Objects.requireNonNull(relation, "a link is that of a relation");
    }

    /** The column of the stage that has what the column held; of one that was not written, what it holds. */
    private String old(String column, Dialect dialect) {
        return columns.contains(column)
                ? "t." + dialect.syntax().quote(ArchivedColumn.OLD + column)
                : "(SELECT c." + dialect.syntax().quote(column) + " FROM "
                        + dialect.syntax().table(stage.table().name()) + " c WHERE " + stage.same("c", "t") + ")";
    }

    /** That the row under an alias is the parent that row t of the stage referred to. */
    String refersTo(String alias, Dialect dialect) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < ofLink().childColumns().size(); i++) {
            parts.add(alias + "."
                    + dialect.syntax().quote(ofLink().parentColumns().get(i)) + " = "
                    + old(ofLink().childColumns().get(i), dialect));
        }
        return String.join(" AND ", parts);
    }

    /** That row t of the stage referred to anything. */
    String refers(Dialect dialect) {
        return ofLink().childColumns().stream()
                .map(column -> old(column, dialect) + " IS NOT NULL")
                .collect(Collectors.joining(" AND "));
    }

    /** That the row under an alias still holds what was written. */
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
