// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A foreign key from a child table to a parent table. A row with a NULL in any of the child columns
 * refers to nothing.
 *
 * @param name the written form: {@code child.column}, or {@code child(col1,col2)}; where two relations
 *     start from the same columns, followed by {@code -> parent}
 * @param parentColumns the columns referred to, in the order of the child columns
 * @param onDelete what the schema declares
 * @param enforced whether the database holds it; false for a relation that only the rule book declares
 * @param deferrable whether the engine can put its check off until commit
 * @param comparedByParent whether the engine compares the child's values by the type or the collation of the parent's
 *     columns, which differ from their own, so that what is equal to the one may not be equal to the other
 * @param discriminator which child rows refer at all; null where all do. Its column stands among the columns of the written
 *     form: {@code remark(subject_id,subject_type='boat')}
 * @param list whether the first child column holds several keys in one value, each of which refers to a row; written
 *     {@code tour.boat_ids[]}
 */
public record Relation(
        String name,
        TableName child,
        List<String> childColumns,
        TableName parent,
        List<String> parentColumns,
        OnDelete onDelete,
        boolean enforced,
        boolean deferrable,
        boolean comparedByParent,
        @Nullable Discriminator discriminator,
        boolean list) {

    public Relation {
        Arguments.notNull(name, "name");
        Arguments.notNull(child, "child");
        Arguments.noneNull(childColumns, "childColumns");
        Arguments.notNull(parent, "parent");
        Arguments.noneNull(parentColumns, "parentColumns");
        Arguments.notNull(onDelete, "onDelete");
        childColumns = List.copyOf(childColumns);
        parentColumns = List.copyOf(parentColumns);
        if (childColumns.isEmpty() || childColumns.size() != parentColumns.size()) {
            throw new IllegalArgumentException("A relation pairs each child column with a parent column: " + name);
        }
    }

    /** A relation under its ordinary written form. */
    public static Relation of(
            TableName child,
            List<String> childColumns,
            TableName parent,
            List<String> parentColumns,
            OnDelete onDelete,
            boolean enforced,
            boolean deferrable) {
        Arguments.notNull(child, "child");
        Arguments.noneNull(childColumns, "childColumns");
        Arguments.notNull(parent, "parent");
        Arguments.noneNull(parentColumns, "parentColumns");
        Arguments.notNull(onDelete, "onDelete");
        return new Relation(
                written(child, childColumns),
                child,
                childColumns,
                parent,
                parentColumns,
                onDelete,
                enforced,
                deferrable,
                false,
                null,
                false);
    }

    /** The same of those child rows only that hold this. */
    public Relation only(Discriminator which) {
        Arguments.notNull(which, "discriminator");
        List<String> written = new ArrayList<>(childColumns);
        written.add(which.toString());
        return with(written(child, written), comparedByParent, which, list);
    }

    /** The same of child rows that hold several keys in their one column. */
    public Relation ofList() {
        if (childColumns.size() != 1 || discriminator != null) {
            throw new IllegalArgumentException("A list of keys stands in one column: " + name);
        }
        return with(written(child, List.of(childColumns.get(0) + "[]")), comparedByParent, null, true);
    }

    /** Whether child rows are found by the keys of their parents alone. */
    public boolean followedByKeys() {
        return !comparedByParent && !list;
    }

    /** The same, compared by the parent's type and collation. */
    public Relation byParent() {
        return with(name, true, discriminator, list);
    }

    private static String written(TableName child, List<String> columns) {
        return columns.size() == 1 ? child + "." + columns.get(0) : child + "(" + String.join(",", columns) + ")";
    }

    /** Whether it leads from a table back to the same table. */
    public boolean toItself() {
        return child.equals(parent);
    }

    Relation withParentInName() {
        String own = discriminator == null && !list ? written(child, childColumns) : name;
        return with(own + " -> " + written(parent, parentColumns), comparedByParent, discriminator, list);
    }

    private Relation with(String other, boolean byParent, @Nullable Discriminator only, boolean keys) {
        return new Relation(
                other,
                child,
                childColumns,
                parent,
                parentColumns,
                onDelete,
                enforced,
                deferrable,
                byParent,
                only,
                keys);
    }

    @Override
    public String toString() {
        return name;
    }
}
