// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import io.vacancy.schema.Table;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Keys as the trail writes them: the one value, or {@code berth_no=3,pier_id=2}. */
public final class KeyText {

    private KeyText() {}

    /**
     * @param values of the identity's columns, in their order
     * @param redactor what hides personal ones
     */
    public static String of(Table table, List<?> values, Redactor redactor) {
        List<String> columns = table.identity().columns();
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < values.size(); i++) {
            Object value = redactor.of(table.name(), columns.get(i), values.get(i));
            parts.add((values.size() == 1 ? "" : columns.get(i) + "=") + text(value));
        }
        return String.join(",", parts);
    }

    /** 1.50 and 1.5 are the same key. */
    static String text(Object value) {
        return value instanceof BigDecimal decimal
                ? decimal.stripTrailingZeros().toPlainString()
                : String.valueOf(value);
    }
}
