// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.internal;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Binary;
import io.vacancy.schema.Row;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Rows as JSON on one line: numbers keep every digit, dates are ISO 8601, binary is base64. */
public final class RowJson {

    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .nodeFactory(JsonValue.NODES)
            .build();

    private static final String BASE64 = "base64";

    private RowJson() {}

    /** An object without anything in it. */
    public static ObjectNode object() {
        return JsonValue.NODES.objectNode();
    }

    /** A row, whose binary values tell that they are. */
    public static ObjectNode of(Row row) {
        Arguments.notNull(row, "row");
        ObjectNode node = object();
        row.values()
                .forEach((column, value) -> node.set(
                        column,
                        value instanceof Binary ? object().put(BASE64, value.toString()) : JsonValue.of(value)));
        return node;
    }

    /** Without a line's end. */
    public static String line(ObjectNode node) {
        try {
            return MAPPER.writeValueAsString(node);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** @throws MisuseException if it is no JSON */
    public static JsonNode read(String line) {
        Arguments.notNull(line, "line");
        return StrictJson.read(line);
    }

    /** The values of a row as they were written, before anything is known of their columns. */
    public static Map<String, @Nullable Object> values(JsonNode row) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        StrictJson.wantsObject(row, "row");
        row.properties().forEach(value -> values.put(value.getKey(), value(value.getValue(), value.getKey())));
        return values;
    }

    private static @Nullable Object value(JsonNode node, String column) {
        if (node.isNull()) {
            return null;
        }
        if (!node.has(BASE64)) {
            return StrictJson.value(node, column);
        }
        try {
            return Binary.of(Base64.getDecoder().decode(StrictJson.text(node, BASE64)));
        } catch (IllegalArgumentException noBase64) {
            throw new MisuseException("\"" + column + "\" is no base64.");
        }
    }
}
