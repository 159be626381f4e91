// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.Locale;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A type as an engine writes it, taken apart.
 *
 * @param base in lower case, without what stands in parentheses
 * @param first the first number in parentheses, or 0
 * @param second the second, or 0
 */
public record DeclaredType(String written, String base, int first, int second) {

    private static final Pattern NUMBERS = Pattern.compile("\\(\\s*([0-9]{1,9})\\s*(?:,\\s*([0-9]{1,9})\\s*)?\\)");

    public static DeclaredType parse(String written) {
        Matcher numbers = NUMBERS.matcher(written);
        boolean found = numbers.find();
        String base = written.replaceAll("\\(.*?\\)", "")
                .replaceAll("\\s+", " ")
                .strip()
                .toLowerCase(Locale.ROOT);
        return new DeclaredType(
                written,
                base,
                found ? Integer.parseInt(numbers.group(1)) : 0,
                found && numbers.group(2) != null ? Integer.parseInt(numbers.group(2)) : 0);
    }

    /** The column type, by what an engine means by the base. Whole numbers get their bits from the name. */
    ColumnType columnType(Function<DeclaredType, ValueKind> kinds) {
        ValueKind kind = kinds.apply(this);
        return switch (kind) {
            case INTEGER -> new ColumnType(kind, written, bits(), 0);
            case DECIMAL, TEXT, BINARY -> new ColumnType(kind, written, first, second);
            default -> ColumnType.of(kind, written);
        };
    }

    private int bits() {
        String name = base.replace(" unsigned", "").replace(" zerofill", "");
        int bits =
                switch (name) {
                    case "tinyint", "int1" -> 8;
                    case "smallint", "int2", "year" -> 16;
                    case "mediumint" -> 24;
                    case "integer", "int", "int4" -> 32;
                    default -> 64;
                };
        return base.contains("unsigned") ? bits + 1 : bits;
    }
}
