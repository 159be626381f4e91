package io.vacancy.text.json;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Row;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Rows as JSON on one line: numbers keep every digit, dates are ISO 8601, binary is base64. */
public final class RowJson {

    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .nodeFactory(JsonValue.NODES)
            .build();

    private RowJson() {}

    /** An object without anything in it. */
    public static ObjectNode object() {
        return JsonValue.NODES.objectNode();
    }

    public static ObjectNode of(Row row) {
        return JsonValue.of(row);
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
        try {
            return MAPPER.readTree(line);
        } catch (JsonProcessingException notJson) {
            throw new MisuseException("This is not JSON: " + notJson.getOriginalMessage() + ".");
        }
    }

    /** The values of a row as they were written, before anything is known of their columns. */
    public static Map<String, @Nullable Object> values(JsonNode row) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        row.properties()
                .forEach(value -> values.put(
                        value.getKey(), value.getValue().isNull() ? null : JsonValue.plain(value.getValue())));
        return values;
    }
}
