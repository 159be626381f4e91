// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Parameter;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.NamedDeletion;
import io.vacancy.schema.Binary;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What is checked of a deletion that has a name, before anybody runs it. */
final class DeletionChecks {

    private DeletionChecks() {}

    /**
     * Holds a deletion's names and values against the tables.
     *
     * @throws MisuseException if anything of it cannot be
     */
    static void check(NamedDeletion deletion, Schema schema) {
        Table table = schema.table(deletion.table());
        Condition where = deletion.where();
        if (where == null) {
            throw new MisuseException(
                    "Deletion @" + deletion.name() + " does not say which rows.", "Give it a condition.");
        }
        for (String parameter : where.parameters()) {
            if (!deletion.parameters().containsKey(parameter)) {
                throw new MisuseException("Deletion @" + deletion.name() + " does not say of which kind its parameter "
                        + parameter + " is.");
            }
        }
        deletion.parameters().forEach((parameter, kind) -> {
            if (!where.parameters().contains(parameter)) {
                throw new MisuseException("Deletion @" + deletion.name() + " has a parameter " + parameter
                        + " that its condition does not use.");
            }
        });
        // Stands for whatever is given later: of the right kind for its column, or wrong for ever.
        where.replaceValues(value -> value instanceof Parameter parameter
                        ? sample(deletion.parameters().get(parameter.name()))
                        : value)
                .readFor(table, schema);
        deletion.order().forEach(order -> table.column(order.column()));
    }

    private static Object sample(@Nullable ValueKind kind) {
        return switch (kind == null ? ValueKind.OTHER : kind) {
            case INTEGER -> 0L;
            case DECIMAL -> BigDecimal.ZERO;
            case FLOATING -> 0.0;
            case BOOLEAN -> false;
            case DATE -> LocalDate.EPOCH;
            case TIME -> LocalTime.NOON;
            case TIMESTAMP -> LocalDate.EPOCH.atStartOfDay();
            case INSTANT -> LocalDate.EPOCH.atStartOfDay().atOffset(ZoneOffset.UTC);
            case UUID -> new UUID(0, 0);
            case BINARY -> Binary.of(new byte[0]);
            case TEXT, OTHER -> "a";
        };
    }
}
