// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.Locale;

/**
 * Texts, each in a column; bytes as hexadecimal digits.
 *
 * <p>A cast of a date to text is not safe: all sessions of a Java process share one object there, and one gets the date
 * of another now and then (seen with 2.7.4). A date is therefore written part by part, by its session's own calendar.
 */
final class HsqldbRowImages implements RowImages {

    @Override
    public RowImageEncoding encoding() {
        return new RowImageEncoding.OwnColumns("LONGVARCHAR", null);
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return switch (type.kind()) {
            case BINARY -> "RAWTOHEX(" + value + ")";
            case DATE -> "CAST(" + date(value) + " AS LONGVARCHAR)";
            case TIMESTAMP, INSTANT -> dateAndTime(value, type.declared());
            default -> "CAST(" + value + " AS LONGVARCHAR)";
        };
    }

    private static String date(String value) {
        return part("YEAR", value, 4) + " || '-' || " + part("MONTH", value, 2) + " || '-' || " + part("DAY", value, 2);
    }

    private static String part(String part, String value, int digits) {
        return "LPAD(CAST(EXTRACT(" + part + " FROM " + value + ") AS VARCHAR(4)), " + digits + ", '0')";
    }

    /** A time of day is safe to cast, and has one digit up to nine o'clock. */
    private static String dateAndTime(String value, String declared) {
        String time = declared.toUpperCase(Locale.ROOT).replace("TIMESTAMP", "TIME");
        return "CAST(" + date(value) + " || CASE WHEN EXTRACT(HOUR FROM " + value
                + ") < 10 THEN CAST(' 0' AS VARCHAR(2)) ELSE CAST(' ' AS VARCHAR(2)) END || CAST(CAST(" + value + " AS "
                + time + ") AS VARCHAR(30)) AS LONGVARCHAR)";
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        return type.kind() == ValueKind.BINARY
                ? "CAST(HEXTORAW(" + cell + ") AS " + type.declared() + ")"
                : "CAST(" + cell + " AS " + type.declared() + ")";
    }
}
