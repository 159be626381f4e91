// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Mode;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.time.ZonedDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What must hold between what a rule book says of a table and the table. Each throws on the first thing that is wrong. */
final class TableChecks {

    private TableChecks() {}

    static void retention(TableEntry entry, Table table, @Nullable ResolvedMarker marker) {
        Retention retention = entry.retention();
        if (retention != null
                && retention.softDeleted() != null
                && (marker == null || marker.markedBefore(ZonedDateTime.now()) == null)) {
            throw new MisuseException(
                    "It is not known since when rows of " + table
                            + " were marked as deleted, so they cannot be purged after a time.",
                    "Give the table a marker with a date, or leave soft-deleted out of retention.");
        }
    }

    static void uniqueWhileActive(TableEntry entry, Table table) {
        for (List<String> unique : entry.uniqueWhileActive()) {
            if (entry.marker() == null) {
                throw new MisuseException("Table " + table + " has no marker, so no two of its rows can be the same"
                        + " while one of them is soft-deleted.");
            }
            unique.forEach(table::column);
        }
    }

    static void mode(TableEntry entry, Table table) {
        if (entry.mode() == Mode.SOFT_DELETE && entry.marker() == null) {
            throw new MisuseException("Table " + table + " cannot usually be soft-deleted: nothing says how its rows"
                    + " would be marked.");
        }
    }

    static void auditColumns(AuditColumns auditColumns, Table table) {
        String by = auditColumns.changedBy();
        String at = auditColumns.changedAt();
        if (by != null && table.column(by).type().kind() != ValueKind.TEXT) {
            throw new MisuseException("Column " + by + " of " + table + " holds "
                    + table.column(by).type().declared() + ", no text, so it cannot keep who changed a row.");
        }
        if (at != null) {
            ValueKind kind = table.column(at).type().kind();
            if (kind != ValueKind.DATE && kind != ValueKind.TIMESTAMP && kind != ValueKind.INSTANT) {
                throw new MisuseException("Column " + at + " of " + table + " holds "
                        + table.column(at).type().declared() + ", so it cannot keep when a row was changed.");
            }
        }
        String version = auditColumns.version();
        if (version != null) {
            ValueKind kind = table.column(version).type().kind();
            if (kind != ValueKind.INTEGER && kind != ValueKind.TIMESTAMP && kind != ValueKind.INSTANT) {
                throw new MisuseException("Column " + version + " of " + table + " holds "
                        + table.column(version).type().declared() + ", so it cannot count the versions of a row.");
            }
        }
    }
}
