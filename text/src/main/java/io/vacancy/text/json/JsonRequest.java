package io.vacancy.text.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.archive.Saved;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Images;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.request.Narrowing;
import io.vacancy.request.Narrowing.Order;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.request.Successor;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Requests as JSON. */
final class JsonRequest {

    /** More keys than this do not travel with a document; who has them makes the request anew. */
    private static final int MOST_KEYS = 10_000;

    private JsonRequest() {}

    static ObjectNode write(Request request) {
        ObjectNode node = JsonValue.NODES.objectNode();
        node.put("table", request.table());
        node.set("selection", selection(request.selection()));
        Narrowing narrowing = request.narrowing();
        if (narrowing.condition() != null) {
            node.set("and", JsonCondition.write(narrowing.condition()));
        }
        if (narrowing.decided() != null) {
            node.put("decided-in-code", true);
        }
        if (narrowing.first() != null) {
            node.put("limit", narrowing.first());
            ArrayNode order = node.putArray("order-by");
            narrowing.order().forEach(by -> order.add(by.toString()));
        }
        Mode mode = request.mode();
        Limits limits = request.limits();
        Duration patience = request.patience();
        node.put("mode", mode == null ? null : mode.word());
        node.put("because", request.because());
        node.put("expect", limits.expect());
        node.put("at-most", limits.atMost());
        node.put("at-most-in-all", limits.atMostInAll());
        node.put("at-most-percent", limits.atMostPercent());
        node.put("unasked", request.unasked());
        node.put("wait", patience == null ? null : patience.toString());
        node.put("deletion", request.named());
        node.put("on-blocked", request.onBlocked().word());
        node.put("with-marked", request.selectsMarked());
        Successor successor = request.successor();
        if (successor != null) {
            ObjectNode next = node.putObject("successor");
            next.set("from", JsonValue.of(successor.from()));
            ObjectNode values = next.putObject("values");
            successor.values().forEach((column, value) -> values.set(column, JsonValue.of(value)));
        }
        node.put("archive", request.archived());
        node.put("continues", request.continued());
        Images images = request.images();
        if (images != null) {
            ObjectNode which = node.putObject("images");
            Saved saved = images.saved();
            ArrayNode receipts = which.putArray("receipts");
            images.receipts().forEach(receipts::add);
            which.put("due-at", images.dueAt() == null ? null : String.valueOf(images.dueAt()));
            which.put("besides", images.besides());
            which.put("saved", saved == null ? null : saved.receipt());
        }
        ObjectNode rules = node.putObject("rules");
        request.rules().forEach(rules::put);
        return node;
    }

    private static ObjectNode selection(Selection selection) {
        ObjectNode node = JsonValue.NODES.objectNode();
        if (selection instanceof Selection.ByKeys by && by.keys().size() > MOST_KEYS) {
            node.put("number-of-keys", by.keys().size());
        } else if (selection instanceof Selection.ByKeys by) {
            ArrayNode keys = node.putArray("keys");
            for (Key key : by.keys()) {
                ObjectNode parts = keys.addObject();
                key.parts().forEach((column, value) -> parts.set(column, JsonValue.of(value)));
            }
        } else if (selection instanceof Selection.ByMatch match) {
            ObjectNode values = node.putObject("match");
            match.values().forEach((column, value) -> values.set(column, JsonValue.of(value)));
        } else if (selection instanceof Selection.ByCondition by) {
            node.set("where", JsonCondition.write(by.condition()));
        } else if (selection instanceof Selection.Orphans orphans) {
            node.put("orphans-of", orphans.relation());
            node.put("set-null", orphans.setNull());
        } else if (selection instanceof Selection.EveryRow every) {
            node.put("every-row", every.atOnce() ? "at-once" : "one-by-one");
        }
        return node;
    }

    static Request read(JsonNode node) {
        if (node.path("decided-in-code").asBoolean()) {
            throw new MisuseException(
                    "The document's rows were chosen by code, which no document carries.",
                    "Make the request anew and carry it out with the fingerprint.");
        }
        List<Order> order = new ArrayList<>();
        node.path("order-by").forEach(by -> order.add(Order.read(by.asText())));
        JsonNode and = node.get("and");
        Condition further = and == null ? null : JsonCondition.read(and);
        String mode = optional(node, "mode");
        String patience = optional(node, "wait");
        return new Request(
                node.path("table").asText(),
                selection(node.path("selection")),
                new Narrowing(further, null, number(node, "limit"), order),
                mode == null ? null : mode(mode),
                new Limits(
                        number(node, "expect"),
                        number(node, "at-most"),
                        number(node, "at-most-in-all"),
                        node.path("at-most-percent").isNumber()
                                ? node.path("at-most-percent").asDouble()
                                : null),
                optional(node, "because"),
                optional(node, "unasked"),
                patience == null ? null : Duration.parse(patience),
                optional(node, "deletion"),
                OnBlocked.SPARE.word().equals(optional(node, "on-blocked")) ? OnBlocked.SPARE : OnBlocked.REFUSE,
                node.path("with-marked").asBoolean(),
                successor(node.path("successor")),
                images(node.path("images")),
                node.path("archive").asBoolean(true),
                optional(node, "continues"),
                rules(node.path("rules")));
    }

    private static @Nullable Images images(JsonNode node) {
        if (!node.isObject()) {
            return null;
        }
        if (node.path("saved").isTextual()) {
            throw new MisuseException(
                    "The document's rows come from a file, which no document carries.",
                    "Make the request anew from the file and carry it out with the fingerprint.");
        }
        List<String> receipts = new ArrayList<>();
        node.path("receipts").forEach(receipt -> receipts.add(receipt.asText()));
        String due = optional(node, "due-at");
        return new Images(
                receipts,
                due == null ? null : Instant.parse(due),
                null,
                node.path("besides").asBoolean());
    }

    private static @Nullable Successor successor(JsonNode node) {
        if (!node.isObject()) {
            return null;
        }
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        node.path("values")
                .properties()
                .forEach(value -> values.put(
                        value.getKey(), value.getValue().isNull() ? null : JsonValue.plain(value.getValue())));
        JsonNode from = node.path("from");
        return new Successor(values, from.isNull() || from.isMissingNode() ? null : JsonValue.plain(from));
    }

    static Map<String, String> rules(JsonNode node) {
        Map<String, String> rules = new LinkedHashMap<>();
        node.properties()
                .forEach(rule -> rules.put(rule.getKey(), rule.getValue().asText()));
        return rules;
    }

    private static Selection selection(JsonNode node) {
        if (node.has("keys")) {
            KeyList.Packing keys = new KeyList.Packing();
            for (JsonNode key : node.path("keys")) {
                Map<String, Object> parts = new LinkedHashMap<>();
                key.properties().forEach(part -> parts.put(part.getKey(), JsonValue.plain(part.getValue())));
                keys.add(new Key(parts));
            }
            KeyList packed = keys.packed();
            if (packed.size() == 0) {
                throw new MisuseException("The document names no key, so nothing is selected.");
            }
            return new Selection.ByKeys(packed);
        }
        if (node.has("number-of-keys")) {
            throw new MisuseException(
                    "The document counts its keys and does not name them.",
                    "Make the request anew from the keys and carry it out with the fingerprint.");
        }
        if (node.has("match")) {
            Map<String, Object> values = new LinkedHashMap<>();
            node.path("match")
                    .properties()
                    .forEach(part -> values.put(part.getKey(), JsonValue.plain(part.getValue())));
            return new Selection.ByMatch(values);
        }
        if (node.has("where")) {
            return new Selection.ByCondition(JsonCondition.read(node.path("where")));
        }
        if (node.has("orphans-of")) {
            return new Selection.Orphans(
                    node.path("orphans-of").asText(), node.path("set-null").asBoolean());
        }
        String everyRow = node.path("every-row").asText();
        if (everyRow.equals("at-once") || everyRow.equals("one-by-one")) {
            return new Selection.EveryRow(everyRow.equals("at-once"));
        }
        throw new MisuseException(
                "The document selects nothing.", "A selection has keys, match, where, orphans-of or every-row.");
    }

    private static Mode mode(String word) {
        return Arrays.stream(Mode.values())
                .filter(mode -> mode.word().equals(word))
                .findFirst()
                .orElseThrow(() -> new MisuseException("\"" + word + "\" is no mode."));
    }

    private static @Nullable String optional(JsonNode node, String key) {
        JsonNode value = node.get(key);
        return value == null || value.isNull() ? null : value.asText();
    }

    private static @Nullable Long number(JsonNode node, String key) {
        JsonNode value = node.path(key);
        return value.isIntegralNumber() ? value.asLong() : null;
    }
}
