// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import java.util.List;
import java.util.Locale;

/** H2: how rows are kept as images. */
final class H2RowImages implements RowImages {

    @Override
    public RowImageEncoding encoding() {
        return new H2RowImageEncoding();
    }

    /** Nothing longer than a digest, since texts that are put together have a longest length. */
    @Override
    public String cellText(String cell, ColumnType type) {
        String hash = "RAWTOHEX(HASH('SHA-256', " + cell + "))";
        return switch (H2RowImageEncoding.place(type)) {
            case "bytes", "texts" -> "COALESCE(" + hash + ", '-')";
            case "lists" -> "COALESCE(CAST(" + cell + " AS VARCHAR), '-')";
            default ->
                "COALESCE(CHAR_LENGTH(" + cell + ") || ':' || CASE WHEN CHAR_LENGTH(" + cell + ") > 64 THEN " + hash
                        + " ELSE " + cell + " END, '-')";
        };
    }

    @Override
    public String digest(String image, List<String> texts) {
        return "RAWTOHEX(HASH('SHA-256', LISTAGG(RAWTOHEX(HASH('SHA-256', STRINGTOUTF8(" + String.join(" || ", texts)
                + "))), '') WITHIN GROUP (ORDER BY " + image + ".row_no)))";
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return switch (H2RowImageEncoding.place(type)) {
            case "lists" -> "CAST(" + value + " AS VARCHAR ARRAY)";
            case "bytes", "texts" -> javaObject(type) ? "CAST(" + value + " AS VARBINARY)" : value;
            default -> RowImages.super.toCell(value, type);
        };
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        if (javaObject(type)) {
            return "CAST(CAST(" + cell + " AS VARBINARY) AS JAVA_OBJECT)";
        }
        return type.declared().toUpperCase(Locale.ROOT).startsWith("JSON")
                ? cell + " FORMAT JSON"
                : RowImages.super.fromCell(cell, type);
    }

    /** The text of a ROW cannot be read again. */
    @Override
    public boolean archives(ColumnType type) {
        return !type.declared().toUpperCase(Locale.ROOT).startsWith("ROW(");
    }

    private static boolean javaObject(ColumnType type) {
        return type.declared().toUpperCase(Locale.ROOT).startsWith("JAVA_OBJECT");
    }

    @Override
    public String toCopy(String value, ColumnType type) {
        return H2RowImageEncoding.place(type).equals("lists") ? value : RowImages.super.toCopy(value, type);
    }

    @Override
    public String fromCopy(ColumnType type) {
        return H2RowImageEncoding.place(type).equals("lists")
                ? "CAST(? AS " + type.declared() + ")"
                : RowImages.super.fromCopy(type);
    }
}
