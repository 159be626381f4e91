// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Names as a provider writes them into SQL, and as they are written in requests: without quotes and what is there anyway. */
final class TableNames {

    private final Set<String> usual = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);

    private TableNames() {}

    /** Where a connection looks for tables whose schema is not said. */
    static TableNames of(Connection connection) throws SQLException {
        TableNames names = new TableNames();
        names.add(connection.getSchema());
        names.add(connection.getCatalog());
        return names;
    }

    private void add(@Nullable String name) {
        if (name != null) {
            usual.add(name);
        }
    }

    /** A table. */
    String table(String expression) {
        List<String> parts = parts(expression);
        String name = parts.get(parts.size() - 1);
        String schema = parts.size() < 2 ? null : parts.get(parts.size() - 2);
        return schema == null || usual.contains(schema) ? name : schema + "." + name;
    }

    /** A column. */
    static String column(String expression) {
        List<String> parts = parts(expression);
        return parts.get(parts.size() - 1);
    }

    private static List<String> parts(String expression) {
        List<String> parts = new ArrayList<>();
        StringBuilder part = new StringBuilder();
        char closing = 0;
        for (char c : expression.toCharArray()) {
            if (closing == 0 && (c == '"' || c == '`' || c == '[')) {
                closing = c == '[' ? ']' : c;
            } else if (c == closing) {
                closing = 0;
            } else if (c == '.' && closing == 0) {
                parts.add(part.toString());
                part.setLength(0);
            } else {
                part.append(c);
            }
        }
        parts.add(part.toString());
        return parts;
    }
}
