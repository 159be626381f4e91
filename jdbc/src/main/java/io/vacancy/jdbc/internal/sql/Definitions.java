// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.sql;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.schema.TableName;
import io.vacancy.spi.DdlSuggestion;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Writes definitions in an engine's SQL. */
public final class Definitions {

    private static final int LONGEST_NAME = 60;

    private final Dialect dialect;

    public Definitions(Dialect dialect) {
        this.dialect = dialect;
    }

    /** The statement, or null where the engine has no such thing. */
    public @Nullable String written(DdlSuggestion definition) {
        if (definition instanceof DdlSuggestion.Index index) {
            return index(index);
        }
        if (definition instanceof DdlSuggestion.ActiveRows view) {
            return new ActiveView(dialect, view.table()).written(view.view(), view.active());
        }
        if (definition instanceof DdlSuggestion.UniqueWhileActive unique) {
            return dialect.definitions().hasPartialIndexes() ? unique(unique) : null;
        }
        DdlSuggestion.MarkerColumn marker = (DdlSuggestion.MarkerColumn) definition;
        return "ALTER TABLE " + dialect.syntax().table(marker.table()) + " ADD COLUMN "
                + dialect.syntax().quote(marker.name()) + " "
                + dialect.definitions().timeType() + " NULL";
    }

    private String unique(DdlSuggestion.UniqueWhileActive unique) {
        TableName table = unique.table().name();
        String active = ConditionSql.byTheEnginesClock(unique.table(), dialect.syntax(), "")
                .write(unique.active())
                .inlined(bind -> dialect.syntax().literal(bind.value()));
        return "CREATE UNIQUE INDEX " + dialect.syntax().quote(name(table, unique.columns()) + "_active") + " ON "
                + dialect.syntax().table(table) + " (" + columns(unique.columns()) + ") WHERE " + active;
    }

    private String index(DdlSuggestion.Index index) {
        return "CREATE INDEX " + dialect.syntax().quote(name(index.table(), index.columns())) + " ON "
                + dialect.syntax().table(index.table()) + " (" + columns(index.columns()) + ")";
    }

    private String columns(List<String> names) {
        return names.stream().map(dialect.syntax()::quote).collect(Collectors.joining(", "));
    }

    /** Told from other names by its columns; engines cut names of more than 63 characters, or refuse them. */
    private static String name(TableName table, List<String> columns) {
        String name = table.name() + "_" + String.join("_", columns);
        return name.length() <= LONGEST_NAME
                ? name
                : name.substring(0, LONGEST_NAME - 9) + "_" + Integer.toHexString(name.hashCode());
    }
}
