// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import io.vacancy.internal.argument.Arguments;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a request does: chosen by the factory that makes the request, and never changed after. What only one operation
 * has is part of it.
 */
public sealed interface Operation {

    /** The written form, such as {@code soft-delete}. */
    String word();

    /** Rows are erased or soft-deleted, as the rule book says when the request is previewed. */
    record Delete() implements Operation {
        @Override
        public String word() {
            return "delete";
        }
    }

    /** Rows are removed, whatever the table's usual mode is. */
    record Erase() implements Operation {
        @Override
        public String word() {
            return OperationKind.ERASE.word();
        }
    }

    /** Rows are marked as deleted and stay, whatever the table's usual mode is. */
    record SoftDelete() implements Operation {
        @Override
        public String word() {
            return OperationKind.SOFT_DELETE.word();
        }
    }

    /**
     * A row ends, and a successor takes its place.
     *
     * @param values what the successor has instead of what the row has, by column; everything else is taken over
     * @param from when the one ends and the other begins, a date or time; null for now
     */
    record Replace(
            Map<String, @Nullable Object> values, @Nullable Object from) implements Operation {
        public Replace {
            Arguments.notNull(values, "values");
            values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
        }

        @Override
        public String word() {
            return OperationKind.REPLACE.word();
        }
    }

    /**
     * A row is deleted, and its child rows get another row of the table as their parent.
     *
     * @param into the row that stays
     * @param deletingDuplicates relations, in their written form, of which those child rows are deleted that the row which
     *     stays has already; of any other relation they block
     */
    record Merge(Key into, List<String> deletingDuplicates) implements Operation {
        public Merge {
            Arguments.notNull(into, "into");
            deletingDuplicates = List.copyOf(Arguments.noneNull(deletingDuplicates, "deletingDuplicates"));
        }

        @Override
        public String word() {
            return OperationKind.MERGE.word();
        }
    }

    /**
     * Rows come back: soft-deleted ones, else archived ones.
     *
     * @param receipt only what was done under it, or null
     * @param source a copy outside the database that they come from, or null
     * @param into the only tables that the copy may have rows and links of; empty for any, of an authenticated one
     */
    record Restore(@Nullable ReceiptId receipt, @Nullable SavedSource source, List<String> into) implements Operation {

        public Restore {
            into = List.copyOf(Arguments.noneNull(into, "into"));
        }

        /** Of everything, or of a receipt. */
        public static Restore of(@Nullable ReceiptId receipt) {
            return new Restore(receipt, null, List.of());
        }

        @Override
        public String word() {
            return OperationKind.RESTORE.word();
        }
    }

    /**
     * Archived rows are removed for good.
     *
     * @param receipt only what was archived under it, or null
     * @param due whether only those are meant whose retention has expired
     */
    record Purge(@Nullable ReceiptId receipt, boolean due) implements Operation {
        @Override
        public String word() {
            return OperationKind.PURGE.word();
        }
    }

    /** What is personal in rows is emptied or replaced, as the rule book says of their table, and they stay. */
    record Blank() implements Operation {
        @Override
        public String word() {
            return OperationKind.BLANK.word();
        }
    }

    /**
     * A person is forgotten: the person's row, and rows that belong to the person, are erased, blanked or kept, as the rule
     * book says of their tables.
     */
    record Forget() implements Operation {
        @Override
        public String word() {
            return OperationKind.FORGET.word();
        }
    }

    /** A table is emptied as a whole. */
    record Truncate() implements Operation {
        @Override
        public String word() {
            return OperationKind.TRUNCATE.word();
        }
    }

    /**
     * A table, or a column of one, is removed from the database itself.
     *
     * @param column null for the whole table
     */
    record Drop(@Nullable String column) implements Operation {

        public Drop {
            if (column != null) {
                Arguments.notBlank(column, "column");
            }
        }

        @Override
        public String word() {
            return OperationKind.DROP.word();
        }
    }

    /**
     * Rows whose parent is missing stay and refer to nothing.
     *
     * @param relation by which they refer to it, in its written form
     */
    record UnlinkOrphans(String relation) implements Operation {

        public UnlinkOrphans {
            Arguments.notBlank(relation, "relation");
        }

        @Override
        public String word() {
            return OperationKind.UNLINK_ORPHANS.word();
        }
    }
}
