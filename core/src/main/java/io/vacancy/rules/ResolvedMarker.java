// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A marker held against its table: names in the table's spelling, values of its columns' types. Immutable. */
public final class ResolvedMarker {

    private final Table table;
    private final Marker marker;
    private final Condition active;
    private final Condition deleted;

    ResolvedMarker(Table table, Marker marker, Condition active, Condition deleted) {
        this.table = table;
        this.marker = marker;
        this.active = active;
        this.deleted = deleted;
    }

    /** By what it is seen. */
    public Marker.Kind sign() {
        return marker.sign();
    }

    /** What holds for the rows that an application shows; never unknown. */
    public Condition active() {
        return active;
    }

    /** What holds for the rows that are soft-deleted; never unknown. Of versions, earlier ones are neither. */
    public Condition deleted() {
        return deleted;
    }

    /** What holds for the rows that were soft-deleted before a time; null where no column tells when they were. */
    public @Nullable Condition markedBefore(ZonedDateTime time) {
        String column = marker.sign() instanceof Marker.Date date
                ? date.column()
                : marker.sign() instanceof Marker.EndDate end ? end.column() : null;
        if (column == null) {
            return null;
        }
        Object at = RelativeTime.now().at(time, table.column(column).type().kind());
        return deleted.and(new Condition.Compare(column, Condition.Comparison.LESS, at));
    }

    /** The column that keeps the receipt's identifier, or null. */
    public @Nullable String receiptColumn() {
        return marker.receipt();
    }

    /** The columns that say whether a row is soft-deleted; those beside them not included. */
    public List<String> columns() {
        return marker.marking().stream().map(Assignment::column).toList();
    }

    /** The columns beside the sign. */
    public List<String> companions() {
        return marker.companions();
    }

    /** What is written beside the sign, into a row that ends. */
    public List<Assignment> companionValues(String actor, @Nullable String why, String receipt) {
        List<Assignment> all = new ArrayList<>();
        keep(marker.who(), actor, all);
        keep(marker.why(), why, all);
        keep(marker.receipt(), receipt, all);
        return all;
    }

    /** What is written into a row that is soft-deleted. */
    public List<Assignment> marking(String actor, @Nullable String why, String receipt) {
        List<Assignment> all = new ArrayList<>(marker.marking());
        all.addAll(companionValues(actor, why, receipt));
        return all;
    }

    /** What is written into a row that comes back. */
    public List<Assignment> unmarking() {
        List<Assignment> all = new ArrayList<>(marker.unmarking());
        keep(marker.who(), null, all);
        keep(marker.why(), null, all);
        keep(marker.receipt(), null, all);
        String restoredAt = marker.restoredAt();
        if (restoredAt != null) {
            all.add(new Assignment(restoredAt, RelativeTime.now()));
        }
        return all;
    }

    /** What is longer than its column is cut, since a deletion is not to fail for its reason. */
    private void keep(@Nullable String name, @Nullable String value, List<Assignment> all) {
        if (name != null) {
            Column column = table.column(name);
            int most = column.type().size();
            boolean fits = value == null || most == 0 || value.length() <= most;
            all.add(new Assignment(
                    column.name(), fits ? value : String.valueOf(value).substring(0, most)));
        }
    }
}
