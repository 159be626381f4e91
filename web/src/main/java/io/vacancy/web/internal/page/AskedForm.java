// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.web.internal.http.Json;
import io.vacancy.web.internal.resource.ResourceCollection;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The fields of a form that asks, as the document that a client of the resources would send. */
public record AskedForm(Map<String, String[]> fields) {

    private static final String PARAMETER = "parameter.";
    private static final List<String> TEXTS = List.of("table", "deletion", "because", "on-blocked", "mode");

    /** What is asked for. */
    public ResourceCollection collection() {
        if (one("restore") != null || "restore".equals(one("operation"))) {
            return ResourceCollection.RESTORES;
        }
        return "purge".equals(one("operation")) ? ResourceCollection.PURGES : ResourceCollection.DELETIONS;
    }

    /** The document. */
    public ObjectNode document() {
        ObjectNode document = Json.object();
        for (String name : TEXTS) {
            String value = one(name);
            if (value != null && !value.isBlank()) {
                document.put(name, value);
            }
        }
        String restored = one("restore");
        if (restored != null) {
            document.put("receipt", restored);
        }
        if (fields.containsKey("key")) {
            ArrayNode keys = document.putArray("keys");
            for (String key : fields.getOrDefault("key", new String[0])) {
                keys.add(key);
            }
        }
        if (one("deletion") != null) {
            ObjectNode parameters = document.putObject("parameters");
            fields.forEach((name, values) -> {
                if (name.startsWith(PARAMETER)) {
                    parameters.put(name.substring(PARAMETER.length()), values[0]);
                }
            });
        }
        return document;
    }

    /** The same fields, by which rows that block are left out; none where that was said already, or nothing is deleted. */
    public Map<String, List<String>> skipping() {
        if (collection() != ResourceCollection.DELETIONS
                || one("on-blocked") != null
                || fields.getOrDefault("key", new String[0]).length < 2) {
            return Map.of();
        }
        Map<String, List<String>> again = new LinkedHashMap<>();
        fields.forEach((name, values) -> {
            if (!name.equals("token")) {
                again.put(name, new ArrayList<>(List.of(values)));
            }
        });
        again.put("on-blocked", List.of("skip"));
        return again;
    }

    public @Nullable String one(String name) {
        String[] values = fields.get(name);
        return values == null || values.length == 0 ? null : values[0];
    }
}
