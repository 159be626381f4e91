// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import java.math.BigDecimal;
import java.util.Locale;

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
        return String.format(Locale.ROOT, "%,d", count);
    }

    /** "12.5 per cent". */
    public static String percent(double percent) {
        return BigDecimal.valueOf(percent).stripTrailingZeros().toPlainString() + " per cent";
    }
}
