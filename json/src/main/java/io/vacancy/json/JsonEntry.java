// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ReceiptId;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.preview.Action;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.ArchiveDigests;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Entries of the trail as JSON, and as events. */
final class JsonEntry {

    private static final String CONFIRMATION = "confirmation";

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
        Confirmation confirmation = entry.confirmation();
        if (confirmation == null) {
            node.putNull(CONFIRMATION);
        } else {
            ObjectNode agreed = node.putObject(CONFIRMATION);
            agreed.put("how", confirmation.how().word());
            agreed.put("words", confirmation.words());
            agreed.set("consequences", JsonWriter.texts(confirmation.consequences()));
            agreed.put("answer", confirmation.answer());
            agreed.put("fingerprint", confirmation.fingerprint());
            // Left out where nobody has to approve, so that such entries are what they were before there was any
            // approval.
            if (confirmation.approvedBy() != null) {
                agreed.put("approved-by", confirmation.approvedBy());
            }
        }
        node.put("table", entry.table());
        node.put("selected", entry.selected());
        node.put("deletion", entry.deletion());
        ArrayNode effects = node.putArray("effects");
        for (AffectedRows rows : entry.affected()) {
            Action action = rows.action();
            effects.addObject()
                    .put("table", rows.table())
                    .put("action", action == null ? null : action.word())
                    .put("relation", rows.relation())
                    .put("becomes", rows.becomes())
                    .put("rows", rows.rows())
                    .set("keys", JsonWriter.texts(rows.keys()));
        }
        node.set(
                "receipts",
                JsonWriter.texts(entry.receipts().stream().map(ReceiptId::value).toList()));
        ReceiptId receipt = entry.receipt();
        node.put("receipt", receipt == null ? null : receipt.value());
        node.put("part", entry.part());
        node.put("reason", entry.reason());
        // Left out where there is none, so that entries without a scope are what they were before there was any.
        if (!entry.scopes().digests().isEmpty()) {
            ObjectNode scopes = node.putObject("scopes");
            new TreeMap<>(entry.scopes().digests()).forEach(scopes::put);
        }
        ArchiveDigests digests = entry.digests();
        if (digests != null) {
            ObjectNode archived = node.putObject("digests");
            archived.put("receipt", digests.receipt());
            ArrayNode images = archived.putArray("images");
            digests.images().forEach(line -> images.addObject()
                    .put("line", line.line())
                    .put("table", line.table())
                    .put("rows", line.rows())
                    .put("digest", line.digest()));
        }
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
        StrictJson.need(node, "origin")
                .properties()
                .forEach(each -> origin.put(each.getKey(), each.getValue().asText()));
        List<AffectedRows> affected = new ArrayList<>();
        for (JsonNode effect : StrictJson.need(node, "effects")) {
            String action = StrictJson.optional(effect, "action");
            affected.add(new AffectedRows(
                    StrictJson.text(effect, "table"),
                    action == null ? null : JsonReader.word(Action.values(), Action::word, action),
                    StrictJson.optional(effect, "relation"),
                    StrictJson.optional(effect, "becomes"),
                    StrictJson.need(effect, "rows").asLong(),
                    JsonReader.texts(StrictJson.need(effect, "keys"))));
        }
        return TrailEntry.of(new TrailEntry.Data(
                StrictJson.text(node, "entry"),
                Instant.parse(StrictJson.text(node, "at")),
                JsonReader.word(TrailEntry.Kind.values(), TrailEntry.Kind::word, kind(StrictJson.text(node, "kind"))),
                JsonReader.word(TrailEntry.Ending.values(), TrailEntry.Ending::word, StrictJson.text(node, "ending")),
                StrictJson.text(node, "by"),
                StrictJson.optional(node, "on-behalf-of"),
                origin,
                StrictJson.optional(node, "because"),
                confirmation(node),
                StrictJson.optional(node, "table"),
                StrictJson.text(node, "selected"),
                StrictJson.optional(node, "deletion"),
                affected,
                JsonReader.texts(StrictJson.need(node, "receipts")).stream()
                        .map(ReceiptId::of)
                        .toList(),
                ReceiptId.ofNullable(StrictJson.optional(node, "receipt")),
                StrictJson.need(node, "part").asInt(),
                StrictJson.optional(node, "reason"),
                scopes(node.path("scopes")),
                digests(node.path("digests"))));
    }

    private static @Nullable ArchiveDigests digests(JsonNode node) {
        if (!node.isObject()) {
            return null;
        }
        List<ArchiveDigests.Images> images = new ArrayList<>();
        for (JsonNode line : StrictJson.need(node, "images")) {
            images.add(new ArchiveDigests.Images(
                    StrictJson.need(line, "line").asInt(),
                    StrictJson.text(line, "table"),
                    StrictJson.need(line, "rows").asLong(),
                    StrictJson.text(line, "digest")));
        }
        return new ArchiveDigests(StrictJson.text(node, "receipt"), images);
    }

    private static ScopeMarks scopes(JsonNode node) {
        Map<String, String> digests = new LinkedHashMap<>();
        node.properties()
                .forEach(each -> digests.put(each.getKey(), each.getValue().asText()));
        return new ScopeMarks(digests);
    }

    /** Entries that are sealed are never written anew, so what earlier versions called otherwise is read as well. */
    private static String kind(String written) {
        return written.equals("unlink") ? TrailEntry.Kind.UNLINK_ORPHANS.word() : written;
    }

    private static @Nullable Confirmation confirmation(JsonNode entry) {
        JsonNode node = entry.has(CONFIRMATION) ? entry.path(CONFIRMATION) : StrictJson.need(entry, "asked");
        if (node.isNull()) {
            return null;
        }
        String how = StrictJson.text(node, "how");
        return new Confirmation(
                JsonReader.word(
                        Confirmation.How.values(),
                        Confirmation.How::word,
                        how.equals("unasked") ? Confirmation.How.WITHOUT_CONFIRMATION.word() : how),
                StrictJson.text(node, "words"),
                JsonReader.texts(StrictJson.need(node, "consequences")),
                StrictJson.optional(node, "answer"),
                StrictJson.optional(node, "fingerprint"),
                StrictJson.optional(node, "approved-by"));
    }
}
