// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** MariaDB: how rows are kept as images. */
final class MariadbRowImages implements RowImages {

    @Override
    public RowImageEncoding encoding() {
        return new RowImageEncoding.OwnColumns("LONGBLOB", new InJson());
    }

    private static final class InJson implements RowImageEncoding.Overflow {

        @Override
        public String toPart(String cell) {
            return "HEX(" + cell + ")";
        }

        @Override
        public String join(List<String> parts) {
            return "JSON_ARRAY(" + String.join(", ", parts) + ")";
        }

        @Override
        public String part(String joined, int first, int second) {
            return "UNHEX(JSON_VALUE(CONVERT(" + joined + " USING utf8mb4), '$[" + first + "][" + second + "]'))";
        }
    }

    /** Nothing longer than a digest, since a result that does not fit into a packet becomes NULL. */
    @Override
    public String cellText(String cell, ColumnType type) {
        return "IFNULL(CONCAT(LENGTH(" + cell + "), ':', IF(LENGTH(" + cell + ") > 64, SHA2(" + cell + ", 256), " + cell
                + ")), '-')";
    }

    /** A setting that is too short would cut off what goes into a digest, without an error. */
    @Override
    public String digesting() {
        return "SET STATEMENT group_concat_max_len = 1048576 FOR ";
    }

    @Override
    public String digest(String image, List<String> texts) {
        return "SHA2(GROUP_CONCAT(SHA2(CONCAT(" + String.join(", ", texts) + "), 256) ORDER BY " + image
                + ".row_no SEPARATOR ''), 256)";
    }

    @Override
    public String toCell(String value, ColumnType type) {
        String base = type.declared().toLowerCase(Locale.ROOT);
        if (type.kind() == ValueKind.BINARY) {
            return value;
        }
        if (type.kind() == ValueKind.OTHER && spatial(base)) {
            return "HEX(" + value + ")";
        }
        String written = base.startsWith("float")
                ? "CAST(" + value + " AS DOUBLE)"
                : base.startsWith("bit") ? "CAST(" + value + " AS UNSIGNED)" : value;
        return "CONVERT(" + written + " USING utf8mb4)";
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        String base = type.declared().toLowerCase(Locale.ROOT);
        if (type.kind() == ValueKind.BINARY) {
            return cell;
        }
        if (type.kind() == ValueKind.OTHER && spatial(base)) {
            return "UNHEX(" + cell + ")";
        }
        String text = "CONVERT(" + cell + " USING utf8mb4)";
        if (mayBeNone(type)) {
            return "NULLIF(" + text + ", '')";
        }
        return base.startsWith("bit") ? "CAST(" + text + " AS UNSIGNED)" : text;
    }

    /** What was put into an ENUM and is none of its values became an empty text, of the number 0. */
    private static boolean mayBeNone(ColumnType type) {
        return type.declared().toLowerCase(Locale.ROOT).startsWith("enum")
                && !type.declared().contains("''");
    }

    @Override
    public @Nullable String refused(String cell, ColumnType type) {
        return mayBeNone(type) ? cell + " = ''" : null;
    }

    @Override
    public String toCopy(String value, ColumnType type) {
        return type.declared().toLowerCase(Locale.ROOT).startsWith("float")
                ? "CAST(" + value + " AS DOUBLE)"
                : RowImages.super.toCopy(value, type);
    }

    private static boolean spatial(String base) {
        return Stream.of("geometry", "point", "linestring", "polygon", "multi").anyMatch(base::startsWith);
    }
}
