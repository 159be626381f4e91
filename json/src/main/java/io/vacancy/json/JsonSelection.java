// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.request.Selection;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Which rows a request is about, as part of its document. */
final class JsonSelection {

    /** More keys than this do not travel with a document; who has them makes the request anew. */
    private static final int MOST_KEYS = 10_000;

    private JsonSelection() {}

    static JsonNode write(Key key) {
        Object only = key.only();
        if (only != null) {
            return JsonValue.of(only);
        }
        ObjectNode parts = JsonValue.NODES.objectNode();
        key.parts().forEach((column, value) -> parts.set(column, JsonValue.of(value)));
        return parts;
    }

    static ObjectNode write(Selection selection) {
        ObjectNode node = JsonValue.NODES.objectNode();
        if (selection instanceof Selection.ByKeys by && by.keys().size() > MOST_KEYS) {
            node.put("number-of-keys", by.keys().size());
        } else if (selection instanceof Selection.ByKeys by) {
            ArrayNode keys = node.putArray("keys");
            for (Key key : by.keys()) {
                keys.add(write(key));
            }
        } else if (selection instanceof Selection.ByMatch match) {
            ObjectNode values = node.putObject("match");
            match.values().forEach((column, value) -> values.set(column, JsonValue.of(value)));
        } else if (selection instanceof Selection.ByCondition by) {
            node.set("where", JsonCondition.write(by.condition()));
        } else if (selection instanceof Selection.Orphans orphans) {
            node.put("orphans-of", orphans.relation());
        } else if (selection instanceof Selection.EveryRow) {
            node.put("every-row", true);
        }
        return node;
    }

    static Selection read(JsonNode node) {
        List<String> ways = new ArrayList<>();
        node.fieldNames().forEachRemaining(ways::add);
        if (ways.size() != 1) {
            throw new MisuseException(
                    ways.isEmpty() ? "The document selects nothing." : "The document has several selections.",
                    "A selection has one of keys, match, where, orphans-of and every-row.");
        }
        JsonNode way = node.path(ways.get(0));
        switch (ways.get(0)) {
            case "keys" -> {
                KeyList.Packing keys = new KeyList.Packing();
                for (JsonNode key : StrictJson.list(node, "keys")) {
                    keys.add(key(key, "keys"));
                }
                return new Selection.ByKeys(keys.packed());
            }
            case "match" -> {
                Map<String, Object> values = new LinkedHashMap<>();
                StrictJson.wantsObject(way, "match");
                way.properties()
                        .forEach(part -> values.put(part.getKey(), StrictJson.value(part.getValue(), part.getKey())));
                return new Selection.ByMatch(values);
            }
            case "where" -> {
                return new Selection.ByCondition(JsonCondition.read(way));
            }
            case "orphans-of" -> {
                return new Selection.Orphans(StrictJson.textOf(way, "orphans-of"));
            }
            case "every-row" -> {
                if (way.isBoolean() && way.asBoolean()) {
                    return new Selection.EveryRow();
                }
                throw new MisuseException("\"every-row\" is true, or left out.");
            }
            case "number-of-keys" ->
                throw new MisuseException(
                        "The document counts its keys and does not name them.", "Make the request anew from the keys.");
            default ->
                throw new MisuseException(
                        "The document's selection \"" + ways.get(0) + "\" is unknown.",
                        "A selection has one of keys, match, where, orphans-of and every-row.");
        }
    }

    /** A plain value, or an object of the values by column. */
    static Key key(JsonNode node, String where) {
        if (node.isValueNode()) {
            return Key.of(StrictJson.value(node, where));
        }
        Map<String, Object> parts = new LinkedHashMap<>();
        StrictJson.wantsObject(node, where);
        node.properties().forEach(part -> parts.put(part.getKey(), StrictJson.value(part.getValue(), part.getKey())));
        return new Key(parts);
    }
}
