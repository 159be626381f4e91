// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Operation;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.Marker;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.Replacement;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Reads what takes the place of a row against its table. */
public record ReplacementResolver(Table table, ResolvedMarker marker, Operation.Replace successor, ZonedDateTime now) {

    public Replacement replacement() {
        Object from = from();
        List<Assignment> opening = new ArrayList<>();
        List<String> omitted = new ArrayList<>();
        if (marker.sign() instanceof Marker.Versions versions) {
            opening.add(new Assignment(versions.start(), begins(versions.start())));
            if (versions.end() != null) {
                opening.add(new Assignment(versions.end(), null));
            }
        } else {
            Marker.EndDate end = end();
            opening.add(new Assignment(end.column(), end.whileActive()));
        }
        marker.companions().forEach(column -> opening.add(new Assignment(column, null)));
        successor.values().forEach((name, value) -> {
            Column column = table.column(name);
            if (column.generated()
                    || opening.stream().anyMatch(set -> set.column().equals(column.name()))) {
                throw new MisuseException("Column " + column.name() + " of " + table
                        + " is not for a successor to say: it follows from the row that ends, or is computed.");
            }
            opening.add(new Assignment(column.name(), value == null ? null : column.read(value, table.name())));
        });
        for (Column column : table.columns()) {
            boolean said = opening.stream().anyMatch(set -> set.column().equals(column.name()));
            if (!said && (column.generated() || column.identity())) {
                omitted.add(column.name());
            }
        }
        boolean sameKey = table.keys().stream().anyMatch(key -> key.stream()
                .noneMatch(column -> omitted.contains(column)
                        || opening.stream().anyMatch(set -> set.column().equals(column))));
        if (sameKey) {
            throw new MisuseException(
                    "The successor would have the same key as the row of " + table + " that ends.",
                    "Give it a key of its own, as one of its values.");
        }
        return new Replacement(opening, omitted, start(), from);
    }

    private @Nullable String start() {
        return marker.sign() instanceof Marker.Versions versions ? versions.start() : null;
    }

    private Marker.EndDate end() {
        if (marker.sign() instanceof Marker.EndDate end) {
            return end;
        }
        throw new MisuseException(
                "Rows of " + table + " have no successors: their marker is neither versions nor an end date.");
    }

    /** When the row ends, and the column that says so; null where nothing but a later start ends it. */
    @Nullable
    public Assignment closing() {
        if (marker.sign() instanceof Marker.Versions versions) {
            return versions.end() == null ? null : new Assignment(versions.end(), begins(versions.end()));
        }
        return new Assignment(end().column(), begins(end().column()));
    }

    /** Where nobody says when, it is whenever the answer comes, and so no part of what is answered. */
    private Object begins(String column) {
        return successor.from() == null ? RelativeTime.nowIn(table.column(column)) : from();
    }

    private Object from() {
        Column column =
                table.column(marker.sign() instanceof Marker.Versions versions ? versions.start() : end().column());
        Object given = successor.from();
        return given == null
                ? RelativeTime.nowIn(column).at(now, column.type().kind())
                : column.read(given, table.name());
    }
}
