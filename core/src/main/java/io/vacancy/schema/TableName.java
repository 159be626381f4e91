// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.util.Comparator;
import org.jspecify.annotations.Nullable;

/**
 * The name of a table as the database keeps it.
 *
 * @param schema the schema it is in, or null for the schema that the connection uses by default
 * @param name the table's own name, in the database's spelling
 */
public record TableName(@Nullable String schema, String name) implements Comparable<TableName> {

    private static final Comparator<TableName> ORDER = Comparator.comparing(
                    TableName::schema, Comparator.nullsFirst(Comparator.<String>naturalOrder()))
            .thenComparing(TableName::name);

    public TableName {
        Arguments.notBlank(name, "name");
    }

    /** A table of the default schema. */
    public static TableName of(String name) {
        return new TableName(null, name);
    }

    @Override
    public int compareTo(TableName other) {
        return ORDER.compare(this, other);
    }

    /**
     * Whether somebody who writes this name means this table: as the database has it, with its schema outside the
     * default one, in any case, as with names that are not quoted.
     */
    public boolean is(String written) {
        return toString().equalsIgnoreCase(Arguments.notBlank(written, "table"));
    }

    /** The written form: {@code boat}, or {@code town.boat} outside the default schema. */
    @Override
    public String toString() {
        return schema == null ? name : schema + "." + name;
    }
}
