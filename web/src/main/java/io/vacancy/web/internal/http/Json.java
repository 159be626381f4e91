// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.http;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;

/** Reads and writes documents: no member twice, nothing behind the end, every digit of a number. */
public final class Json {

    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .nodeFactory(JsonNodeFactory.withExactBigDecimals(true))
            .build();

    private Json() {}

    public static ObjectNode object() {
        return MAPPER.createObjectNode();
    }

    /** A document of ours. */
    public static JsonNode own(String text) {
        try {
            return MAPPER.readTree(text);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException("a document of our own is broken", impossible);
        }
    }

    /**
     * A document of a client's.
     *
     * @throws ProblemException if it is no object
     */
    public static ObjectNode object(byte[] body) {
        try {
            if (MAPPER.readTree(body) instanceof ObjectNode object) {
                return object;
            }
        } catch (IOException broken) {
            throw new ProblemException(400, "malformed", "The body is not JSON, or has a member twice.");
        }
        throw new ProblemException(400, "malformed", "The body is not a JSON object.");
    }

    public static String text(JsonNode node) {
        try {
            return MAPPER.writeValueAsString(node);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
