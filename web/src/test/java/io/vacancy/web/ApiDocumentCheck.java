// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.util.Iterator;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Holds requests and responses against the document that describes them. */
final class ApiDocumentCheck {

    private static final ObjectMapper MAPPER = new ObjectMapper();
    private static final JsonSchemaFactory SCHEMAS = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012);

    private final JsonNode document;

    ApiDocumentCheck(JsonNode document) {
        this.document = document;
    }

    /**
     * @param path behind where the resources are mounted, without its query
     * @param body null where there was none
     */
    void holds(String method, String path, @Nullable String sent, int status, @Nullable String type, String body) {
        if (status == 400 && type != null && type.startsWith("text/html")) {
            // The container refused it before anybody could look at it.
            return;
        }
        JsonNode item = item(path);
        if (item == null) {
            assertThat(status).as(path + " is not in the document").isIn(400, 403, 404, 429);
            return;
        }
        JsonNode operation = item.path(method.toLowerCase(Locale.ROOT));
        if (operation.isMissingNode()) {
            assertThat(status)
                    .as(method + " " + path + " is not in the document")
                    .isIn(403, 405, 429);
            return;
        }
        JsonNode response = followed(operation.path("responses").path(String.valueOf(status)));
        assertThat(response.isMissingNode())
                .as(method + " " + path + " may end with " + status)
                .isFalse();
        JsonNode content = response.path("content");
        if (content.isMissingNode()) {
            assertThat(body).as(path).isEmpty();
            return;
        }
        assertThat(content.has(type)).as(path + " sends " + type).isTrue();
        valid(
                content.path(String.valueOf(type)).path("schema"),
                read(body),
                method + " " + path + " " + status + ": " + body);
        JsonNode schema = operation
                .path("requestBody")
                .path("content")
                .path("application/json")
                .path("schema");
        if (sent != null && status < 300 && !schema.isMissingNode()) {
            valid(schema, read(sent), "what was sent to " + path + ": " + sent);
        }
    }

    private @Nullable JsonNode item(String path) {
        for (Iterator<Map.Entry<String, JsonNode>> all = document.path("paths").fields(); all.hasNext(); ) {
            Map.Entry<String, JsonNode> each = all.next();
            if (path.matches(each.getKey().replaceAll("\\{\\w+}", "[^/]+").replace(".", "\\."))) {
                return each.getValue();
            }
        }
        return null;
    }

    private JsonNode followed(JsonNode node) {
        return node.has("$ref") ? document.at(node.path("$ref").asText().substring(1)) : node;
    }

    /** The components go with the schema, so that its references are found. */
    private void valid(JsonNode schema, JsonNode instance, String what) {
        ObjectNode whole = MAPPER.createObjectNode();
        whole.set("components", document.path("components"));
        whole.putArray("allOf").add(schema);
        JsonSchema compiled = SCHEMAS.getSchema(whole);
        assertThat(compiled.validate(instance)).as(what).isEmpty();
    }

    private static JsonNode read(String body) {
        try {
            return MAPPER.readTree(body);
        } catch (JsonProcessingException broken) {
            throw new AssertionError("not JSON: " + body, broken);
        }
    }
}
