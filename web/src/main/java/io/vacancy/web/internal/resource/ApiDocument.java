// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.web.internal.http.Json;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;

/** The resources as an OpenAPI document. */
public final class ApiDocument {

    private static final String RESOURCE = "/io/vacancy/web/openapi.json";

    private ApiDocument() {}

    /** The document, with the address at which the resources are mounted. */
    public static JsonNode at(String base) {
        try (InputStream in = ApiDocument.class.getResourceAsStream(RESOURCE)) {
            if (in == null) {
                throw new IllegalStateException("resource " + RESOURCE + " is missing");
            }
            ObjectNode document = (ObjectNode) Json.own(new String(in.readAllBytes(), StandardCharsets.UTF_8));
            document.putArray("servers").addObject().put("url", base);
            return document;
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
