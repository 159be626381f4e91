// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Reads keys of rows that nobody has looked at. */
public final class Keys {

    private Keys() {}

    /**
     * The keys of the first rows, in any order; none where they do not last.
     *
     * @param from what stands after FROM
     * @param which what holds for row t
     */
    public static List<List<Object>> first(Session session, Table table, String from, Sql which, int most) {
        if (!table.identity().lasts()) {
            return List.of();
        }
        List<KeyColumn> columns = table.identity().columns().stream()
                .map(name -> new KeyColumn(name, table.column(name).type(), false))
                .toList();
        Sql select = Sql.of("SELECT "
                        + columns.stream()
                                .map(column -> session.dialect().syntax().column("t", column))
                                .collect(Collectors.joining(", "))
                        + " FROM " + from + " t WHERE ")
                .add(which)
                .add(session.dialect().syntax().firstRows(most));
        return session.query(select, StatementContext.of("reading keys of", table.name()), row -> {
            List<@Nullable Object> key = new ArrayList<>();
            for (int i = 0; i < columns.size(); i++) {
                key.add(session.dialect()
                        .values()
                        .read(row, i + 1, columns.get(i).type()));
            }
            return whole(key);
        });
    }

    /** A key has no NULL in it. */
    static List<Object> whole(List<? extends @Nullable Object> key) {
        return key.stream().<Object>map(value -> Objects.requireNonNull(value)).toList();
    }
}
