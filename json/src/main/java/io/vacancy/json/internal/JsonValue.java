// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.internal;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Collection;
import org.jspecify.annotations.Nullable;

/** Values and rows as JSON: numbers keep every digit, dates are ISO 8601, binary is base64. */
public final class JsonValue {

    /** Keeps 12.50 as it is; the usual factory would strip it to 12.5. */
    public static final JsonNodeFactory NODES = JsonNodeFactory.withExactBigDecimals(true);

    private JsonValue() {}

    public static JsonNode of(@Nullable Object value) {
        if (value == null) {
            return NODES.nullNode();
        }
        if (value instanceof Boolean truth) {
            return NODES.booleanNode(truth);
        }
        if (value instanceof Long || value instanceof Integer || value instanceof Short || value instanceof Byte) {
            return NODES.numberNode(((Number) value).longValue());
        }
        if (value instanceof BigInteger number) {
            return NODES.numberNode(number);
        }
        if (value instanceof BigDecimal number) {
            return NODES.numberNode(number);
        }
        if (value instanceof Double number && Double.isFinite(number) && !number.equals(-0.0)) {
            return NODES.numberNode(number);
        }
        // Dates and times write themselves in ISO 8601, binary in base64; NaN and -0 have no JSON number.
        return NODES.textNode(value.toString());
    }

    public static ObjectNode of(Row row) {
        ObjectNode node = NODES.objectNode();
        row.values().forEach((column, value) -> node.set(column, of(value)));
        return node;
    }

    public static ArrayNode of(Collection<Row> rows) {
        ArrayNode node = NODES.arrayNode();
        rows.forEach(row -> node.add(of(row)));
        return node;
    }

    /** A value as it was written, before anything is known of its column. */
    public static Object plain(JsonNode node) {
        if (node.isBoolean()) {
            return node.asBoolean();
        }
        if (node.isIntegralNumber()) {
            return node.canConvertToLong() ? (Object) node.asLong() : node.bigIntegerValue();
        }
        return node.isNumber() ? node.decimalValue() : node.asText();
    }

    /** The name of a table from its written form. */
    public static TableName table(String written) {
        int dot = written.indexOf('.');
        return dot < 0 ? TableName.of(written) : new TableName(written.substring(0, dot), written.substring(dot + 1));
    }
}
