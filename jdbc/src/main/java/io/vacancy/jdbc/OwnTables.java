// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What Vacancy's own tables are called.
 *
 * @param schema where they are, or null for the schema that a connection works in
 * @param prefix what their names begin with
 */
public record OwnTables(@Nullable String schema, String prefix) {

    /** The type of whole numbers in them. */
    public static final ColumnType NUMBER = ColumnType.of(ValueKind.INTEGER, "BIGINT");

    /** The type of texts in them. */
    public static final ColumnType TEXT = ColumnType.of(ValueKind.TEXT, "VARCHAR");

    /** In the usual schema, beginning with {@code vacancy_}. */
    public static final OwnTables USUAL = new OwnTables(null, "vacancy_");

    public OwnTables {
        Arguments.notNull(prefix, "prefix");
        if (!prefix.matches("[A-Za-z][A-Za-z0-9_]{0,19}")) {
            throw new MisuseException(
                    "\"" + prefix + "\" cannot be what the names of tables begin with.",
                    "Give a letter and up to 19 letters, digits and _, such as vacancy_.");
        }
    }

    /** The name of one of them. */
    public TableName table(String name) {
        return new TableName(schema, prefix + name);
    }

    /**
     * The name of a table without the prefix, in lower case.
     *
     * @return empty for a table of another schema or that begins otherwise
     */
    public Optional<String> nameOf(TableName table) {
        boolean there =
                schema == null ? table.schema() == null : schema.equalsIgnoreCase(String.valueOf(table.schema()));
        String name = table.name().toLowerCase(Locale.ROOT);
        String begin = prefix.toLowerCase(Locale.ROOT);
        return there && name.startsWith(begin) ? Optional.of(name.substring(begin.length())) : Optional.empty();
    }
}
