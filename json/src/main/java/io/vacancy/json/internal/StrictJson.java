// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.internal;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import io.vacancy.failure.MisuseException;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * Reads JSON (RFC 8259) from outside: no member twice, nothing after the document, no text in the place of a number, and
 * nothing so deep or so long that reading it would take long. What is not as it should be is an error, never left out.
 */
public final class StrictJson {

    private static final int DEEPEST = 150;
    private static final int LONGEST_TEXT = 64_000_000;
    private static final int LONGEST_NUMBER = 1_000;
    private static final long LONGEST_DOCUMENT = 64_000_000;
    private static final int MOST_ZEROS = 2_000;

    private static final ObjectMapper MAPPER = JsonMapper.builder(JsonFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .maxStringLength(LONGEST_TEXT)
                            .maxNumberLength(LONGEST_NUMBER)
                            .maxDocumentLength(LONGEST_DOCUMENT)
                            .build())
                    .build())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .nodeFactory(JsonValue.NODES)
            .build();

    private StrictJson() {}

    /** @throws MisuseException if it is not JSON */
    public static JsonNode read(String json) {
        try {
            JsonNode node = MAPPER.readTree(json);
            if (node == null || node.isMissingNode()) {
                throw new MisuseException("This is not JSON: it is empty.");
            }
            return node;
        } catch (JsonProcessingException notJson) {
            throw new MisuseException("This is not JSON: "
                    + notJson.getOriginalMessage().replaceFirst(" \\(start marker at .*", "") + ".");
        }
    }

    /** A member that has to be there. */
    public static JsonNode need(JsonNode node, String key) {
        JsonNode value = node.get(key);
        if (value == null) {
            throw new MisuseException("The document lacks \"" + key + "\".");
        }
        return value;
    }

    /** A text that has to be there. */
    public static String text(JsonNode node, String key) {
        String text = optional(node, key);
        if (text == null) {
            throw new MisuseException("The document lacks a text as \"" + key + "\".");
        }
        return text;
    }

    /** A text, or null where there is none. */
    public static @Nullable String optional(JsonNode node, String key) {
        JsonNode value = node.get(key);
        if (value == null || value.isNull()) {
            return null;
        }
        return textOf(value, key);
    }

    /** The text that a value is. */
    public static String textOf(JsonNode value, String where) {
        if (!value.isTextual()) {
            throw new MisuseException("\"" + where + "\" is not a text.");
        }
        return value.textValue();
    }

    /** A whole number of 64 bits; null where there is none. */
    public static @Nullable Long whole(JsonNode node, String key) {
        JsonNode value = node.get(key);
        if (value == null || value.isNull()) {
            return null;
        }
        if (!value.isIntegralNumber() || !value.canConvertToLong()) {
            throw new MisuseException("\"" + key + "\" is not a whole number.");
        }
        return value.longValue();
    }

    /** A number; null where there is none. */
    public static @Nullable Double number(JsonNode node, String key) {
        JsonNode value = node.get(key);
        if (value == null || value.isNull()) {
            return null;
        }
        if (!value.isNumber()) {
            throw new MisuseException("\"" + key + "\" is not a number.");
        }
        return value.doubleValue();
    }

    /** A truth value. */
    public static boolean truth(JsonNode node, String key, boolean unlessSaid) {
        JsonNode value = node.get(key);
        if (value == null || value.isNull()) {
            return unlessSaid;
        }
        if (!value.isBoolean()) {
            throw new MisuseException("\"" + key + "\" is not true or false.");
        }
        return value.booleanValue();
    }

    /** A list that may be left out. */
    public static JsonNode list(JsonNode node, String key) {
        JsonNode value = node.path(key);
        if (!value.isMissingNode() && !value.isArray()) {
            throw new MisuseException("\"" + key + "\" is not a list.");
        }
        return value;
    }

    /** An object that may be left out. */
    public static JsonNode object(JsonNode node, String key) {
        JsonNode value = node.path(key);
        if (!value.isMissingNode()) {
            wantsObject(value, key);
        }
        return value;
    }

    /** @throws MisuseException if a value is no object, or a member of it has no name */
    public static void wantsObject(JsonNode value, String what) {
        if (!value.isObject()) {
            throw new MisuseException("\"" + what + "\" is not an object.");
        }
        value.fieldNames().forEachRemaining(name -> {
            if (name.isBlank()) {
                throw new MisuseException("In \"" + what + "\" something has no name.");
            }
        });
    }

    /** A single value as it was written, before anything is known of its column; neither NULL nor a list or an object. */
    public static Object value(JsonNode node, String where) {
        if (node.isNull() || node.isContainerNode()) {
            throw new MisuseException("\"" + where + "\" is no single value.");
        }
        Object value = JsonValue.plain(node);
        if (value instanceof BigDecimal decimal && Math.abs((long) decimal.scale()) > MOST_ZEROS) {
            throw new MisuseException("\"" + where + "\" is a number with more digits than " + MOST_ZEROS + ".");
        }
        return value;
    }
}
