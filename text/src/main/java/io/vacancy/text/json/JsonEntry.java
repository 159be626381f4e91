package io.vacancy.text.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.preview.Action;
import io.vacancy.trail.Asked;
import io.vacancy.trail.Trace;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Entries of the trail as JSON, and as events. */
final class JsonEntry {

    private JsonEntry() {}

    static ObjectNode write(TrailEntry entry) {
        ObjectNode node = JsonValue.NODES.objectNode();
        node.put("version", JsonWriter.VERSION);
        node.put("entry", entry.id());
        node.put("at", entry.at().toString());
        node.put("kind", entry.kind().word());
        node.put("ending", entry.ending().word());
        node.put("by", entry.by());
        node.put("on-behalf-of", entry.onBehalfOf());
        ObjectNode origin = node.putObject("origin");
        entry.origin().forEach(origin::put);
        node.put("because", entry.because());
        Asked asked = entry.asked();
        if (asked == null) {
            node.putNull("asked");
        } else {
            ObjectNode question = node.putObject("asked");
            question.put("how", asked.how().word());
            question.put("words", asked.words());
            question.set("consequences", JsonWriter.texts(asked.consequences()));
            question.put("answer", asked.answer());
        }
        node.put("table", entry.table());
        node.put("selected", entry.selected());
        node.put("deletion", entry.deletion());
        ArrayNode effects = node.putArray("effects");
        for (Trace trace : entry.traces()) {
            Action action = trace.action();
            effects.addObject()
                    .put("table", trace.table())
                    .put("action", action == null ? null : action.word())
                    .put("relation", trace.relation())
                    .put("becomes", trace.becomes())
                    .put("rows", trace.rows())
                    .set("keys", JsonWriter.texts(trace.keys()));
        }
        node.set("receipts", JsonWriter.texts(entry.receipts()));
        node.put("receipt", entry.receipt());
        node.put("part", entry.part());
        node.put("reason", entry.reason());
        return node;
    }

    /** In the JSON format of CloudEvents 1.0. */
    static ObjectNode event(TrailEntry entry, String source) {
        ObjectNode node = JsonValue.NODES.objectNode();
        node.put("specversion", "1.0");
        node.put("id", entry.id());
        node.put("source", source);
        node.put("type", "io.vacancy." + entry.kind().word());
        node.put("subject", entry.table());
        node.put("time", entry.at().toString());
        node.put("datacontenttype", "application/json");
        node.set("data", write(entry));
        return node;
    }

    static TrailEntry read(JsonNode node) {
        Map<String, String> origin = new LinkedHashMap<>();
        JsonReader.need(node, "origin")
                .properties()
                .forEach(each -> origin.put(each.getKey(), each.getValue().asText()));
        List<Trace> traces = new ArrayList<>();
        for (JsonNode effect : JsonReader.need(node, "effects")) {
            String action = JsonReader.optional(effect, "action");
            traces.add(new Trace(
                    JsonReader.text(effect, "table"),
                    action == null ? null : JsonReader.word(Action.values(), Action::word, action),
                    JsonReader.optional(effect, "relation"),
                    JsonReader.optional(effect, "becomes"),
                    JsonReader.need(effect, "rows").asLong(),
                    JsonReader.texts(JsonReader.need(effect, "keys"))));
        }
        return new TrailEntry(
                JsonReader.text(node, "entry"),
                Instant.parse(JsonReader.text(node, "at")),
                JsonReader.word(TrailEntry.Kind.values(), TrailEntry.Kind::word, JsonReader.text(node, "kind")),
                JsonReader.word(TrailEntry.Ending.values(), TrailEntry.Ending::word, JsonReader.text(node, "ending")),
                JsonReader.text(node, "by"),
                JsonReader.optional(node, "on-behalf-of"),
                origin,
                JsonReader.optional(node, "because"),
                asked(JsonReader.need(node, "asked")),
                JsonReader.optional(node, "table"),
                JsonReader.text(node, "selected"),
                JsonReader.optional(node, "deletion"),
                traces,
                JsonReader.texts(JsonReader.need(node, "receipts")),
                JsonReader.optional(node, "receipt"),
                JsonReader.need(node, "part").asInt(),
                JsonReader.optional(node, "reason"));
    }

    private static @Nullable Asked asked(JsonNode node) {
        return node.isNull()
                ? null
                : new Asked(
                        JsonReader.word(Asked.How.values(), Asked.How::word, JsonReader.text(node, "how")),
                        JsonReader.text(node, "words"),
                        JsonReader.texts(JsonReader.need(node, "consequences")),
                        JsonReader.optional(node, "answer"));
    }
}
