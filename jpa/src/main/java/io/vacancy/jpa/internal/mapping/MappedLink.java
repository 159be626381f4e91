// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A relation of the mapping.
 *
 * @param attribute the attribute that has it, after the entity's name; null for tables that continue a row
 * @param owned whether the child rows have no life of their own: values of a collection, links of a join table, parts of an
 *     entity that is kept in several tables
 * @param removes whether the mapping itself removes children with their parent
 */
public record MappedLink(
        String child,
        List<String> childColumns,
        String parent,
        List<String> parentColumns,
        @Nullable String attribute,
        boolean owned,
        boolean removes) {

    public MappedLink {
        childColumns = List.copyOf(childColumns);
        parentColumns = List.copyOf(parentColumns);
    }

    /** Its written form, which declares it where the database does not. */
    public String written() {
        return end(child, childColumns) + " -> " + end(parent, parentColumns);
    }

    private static String end(String table, List<String> columns) {
        return columns.size() == 1 ? table + "." + columns.get(0) : table + "(" + String.join(",", columns) + ")";
    }
}
