// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import java.math.BigDecimal;

/** Numbers of rows as people read them. */
public final class CountText {

    private CountText() {}

    /** "1 row", "23 rows", "12,000 rows". */
    public static String rows(long count) {
        return grouped(count) + (count == 1 ? " row" : " rows");
    }

    /** "1 archived row", "12,000 archived rows". */
    public static String archivedRows(long count) {
        return grouped(count) + (count == 1 ? " archived row" : " archived rows");
    }

    /** "12,000". */
    public static String grouped(long count) {
        String digits = Long.toString(count);
        int first = count < 0 ? 1 : 0;
        if (digits.length() - first <= 3) {
            return digits;
        }
        // By hand: every question has several such numbers, and a format is parsed anew for each.
        StringBuilder grouped = new StringBuilder(digits);
        for (int place = digits.length() - 3; place > first; place -= 3) {
            grouped.insert(place, ',');
        }
        return grouped.toString();
    }

    /** "12.5 per cent". */
    public static String percent(double percent) {
        return BigDecimal.valueOf(percent).stripTrailingZeros().toPlainString() + " per cent";
    }
}
