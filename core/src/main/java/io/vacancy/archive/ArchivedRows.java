// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.schema.TableName;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What one part of a receipt has in the archive of one table: whole rows, or what some columns of rows that stayed held
 * before. Plain immutable data, made by Vacancy.
 */
public final class ArchivedRows {

    /** What is archived of rows. */
    public enum Kind {
        /** Whole rows, which were removed. */
        ROWS,
        /** The old values of a link of rows that stayed. */
        LINKS,
        /** The old values of columns that were blanked, of rows that stayed. */
        VALUES,
        /** The old values of the marker of rows that were soft-deleted and stayed. */
        MARKS
    }

    private final Data data;

    private ArchivedRows(Data data) {
        this.data = data;
    }

    /** For Vacancy's own use. */
    public static ArchivedRows of(Data data) {
        return new ArchivedRows(data);
    }

    /** The receipt it belongs to. */
    public ReceiptId receipt() {
        return data.receipt();
    }

    /** From 1; one for each transaction of the receipt. */
    public int part() {
        return data.part();
    }

    /** Its number within the receipt, from 0, in the order of the preview. */
    public int line() {
        return data.line();
    }

    /** The table whose rows they were. */
    public TableName table() {
        return data.table();
    }

    /** What of the rows it is. */
    public Kind kind() {
        return data.kind();
    }

    /** Through which the rows were reached, or null for the selected rows. */
    public @Nullable String relation() {
        return data.relation();
    }

    /** How many rows were archived. */
    public long rows() {
        return data.rows();
    }

    /** How many of them are still there. */
    public long there() {
        return data.there();
    }

    /** How many of them can still be restored. */
    public long left() {
        return data.left();
    }

    /** Who did it. */
    public String by() {
        return data.by();
    }

    /** When. */
    public Instant at() {
        return data.at();
    }

    /** Why, or null where nobody said. */
    public @Nullable String because() {
        return data.because();
    }

    /** When their retention expires, or null where nothing says so. */
    public @Nullable Instant until() {
        return data.until();
    }

    /** Whether a hold is on all of them. */
    public boolean held() {
        return data.held();
    }

    /** The columns, with the types they had then. */
    public List<ArchivedColumn> columns() {
        return data.columns();
    }

    /** A digest of the condition that the scope had on the table when they went; null without one. */
    public @Nullable String scopeMark() {
        return data.scopeMark();
    }

    /** All that it has, as Vacancy puts it together; what it is made of may grow in any version. */
    public record Data(
            ReceiptId receipt,
            int part,
            int line,
            TableName table,
            Kind kind,
            @Nullable String relation,
            long rows,
            long there,
            long left,
            String by,
            Instant at,
            @Nullable String because,
            @Nullable Instant until,
            boolean held,
            List<ArchivedColumn> columns,
            @Nullable String scopeMark) {

        public Data {
            columns = List.copyOf(columns);
        }
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof ArchivedRows same && data.equals(same.data);
    }

    @Override
    public int hashCode() {
        return data.hashCode();
    }

    @Override
    public String toString() {
        return data.toString();
    }
}
