// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.json.JsonReader;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Operation;
import io.vacancy.request.Request;
import io.vacancy.schema.TableName;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import io.vacancy.web.internal.http.Json;
import io.vacancy.web.internal.http.ProblemException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a client may say when it asks: a table and keys, an opened condition or an opened deletion of the rule book; why; and what
 * to do when rows block it. Everything else it could wish for is the application's to say, and refused.
 */
public record AskedDocument(Vacancy vacancy, Exposure exposure, int mostKeys) {

    private static final int LONGEST_REASON = 1_000;

    /** The request that a document asks for. */
    public Request read(ObjectNode asked, ResourceCollection collection) {
        for (Iterator<String> names = asked.fieldNames(); names.hasNext(); ) {
            String name = names.next();
            if (!collection.members().contains(name)) {
                throw malformed(
                        "\"" + name + "\" cannot be said here; " + String.join(", ", collection.members()) + " can.");
            }
        }
        JsonNode because = asked.path("because");
        if (because.isTextual() && because.textValue().length() > LONGEST_REASON) {
            throw malformed("The reason has more than " + LONGEST_REASON + " characters.");
        }
        String deletion = text(asked, "deletion");
        if (deletion != null && !exposure.opensDeletion(deletion)) {
            throw closed();
        }
        wantsOne(asked, collection, deletion);
        ObjectNode document = Json.object();
        document.put("version", 1);
        document.put("operation", operation(asked, collection));
        for (String name :
                List.of("table", "because", "on-blocked", "receipt", "successor", "deletion", "parameters")) {
            if (asked.has(name)) {
                document.set(name, asked.get(name));
            }
        }
        select(asked, document);
        wantsOpenTable(asked, document);
        if (asked.has("plus")) {
            plus(asked, document);
        }
        Request request = JsonReader.request(Json.text(document), vacancy.rules()::deletion);
        wantsOpen(request, deletion != null);
        return request;
    }

    private static void select(ObjectNode asked, ObjectNode document) {
        if (asked.has("keys") || asked.has("where")) {
            String way = asked.has("keys") ? "keys" : "where";
            document.putObject("selection").set(way, asked.get(way));
        }
    }

    /** Rows of further tables, each as open to clients as if it were asked for alone. */
    private void plus(ObjectNode asked, ObjectNode document) {
        ArrayNode others = document.putArray("plus");
        int keys = asked.path("keys").size();
        for (JsonNode other : asked.path("plus")) {
            boolean one = other.isObject()
                    && other.size() == 2
                    && other.has("table")
                    && (other.has("where")
                            || (other.path("keys").isArray()
                                    && !other.path("keys").isEmpty()));
            if (!one || asked.has("deletion")) {
                throw malformed("\"plus\" has objects of a table and its keys, or a table and a condition.");
            }
            keys += other.path("keys").size();
            if (keys > mostKeys) {
                throw malformed("There are more than " + mostKeys + " keys.");
            }
            ObjectNode read = others.addObject();
            read.set("table", other.get("table"));
            select((ObjectNode) other, read);
            wantsOpenTable((ObjectNode) other, document);
        }
        if (others.isEmpty()) {
            throw malformed("\"plus\" is empty, or no list.");
        }
    }

    private void wantsOne(ObjectNode asked, ResourceCollection collection, @Nullable String deletion) {
        boolean selects = asked.has("keys") || asked.has("where");
        if (asked.has("keys") && asked.has("where")) {
            throw malformed("Rows are selected by keys or by a condition, not by both.");
        }
        if (asked.path("keys").size() > mostKeys) {
            throw malformed("There are more than " + mostKeys + " keys.");
        }
        if (asked.has("keys") && asked.path("keys").isEmpty()) {
            throw malformed("There are no keys.");
        }
        boolean complete =
                switch (collection) {
                    case DELETIONS ->
                        deletion == null ? asked.has("table") && selects : !asked.has("table") && !selects;
                    case REPLACEMENTS -> asked.has("table") && selects && asked.has("successor");
                    case RESTORES, PURGES -> asked.has("table") ? selects : asked.has("receipt") && !selects;
                };
        if (!complete) {
            throw malformed("It does not say which rows, or says it twice.");
        }
    }

    private static String operation(ObjectNode asked, ResourceCollection collection) {
        String mode = text(asked, "mode");
        if (mode == null) {
            return collection.operation();
        }
        // A named deletion deletes.
        List<String> modes = asked.has("deletion")
                ? List.of("erase", "soft-delete")
                : List.of("erase", "soft-delete", "blank", "forget");
        if (!modes.contains(mode)) {
            throw malformed("The mode is " + String.join(" or ", modes) + ", not \"" + mode + "\".");
        }
        return mode;
    }

    /** Before anything is read against the schema, so that nobody learns which tables there are. */
    private void wantsOpenTable(ObjectNode asked, ObjectNode document) {
        String table = text(asked, "table");
        if (table == null) {
            return;
        }
        TableName name = named(table);
        boolean open = name != null && opens(name, document.path("operation").asText());
        if (!open || (asked.has("where") && (name == null || !exposure.opensConditions(name)))) {
            throw closed();
        }
    }

    private boolean opens(TableName table, String operation) {
        return switch (operation) {
            case "delete" -> exposure.opens(table, Exposed.DELETE);
            case "erase" -> exposure.opens(table, Exposed.ERASE);
            case "soft-delete" -> exposure.opens(table, Exposed.SOFT_DELETE);
            case "blank" -> exposure.opens(table, Exposed.BLANK);
            case "forget" -> exposure.opens(table, Exposed.FORGET);
            case "restore" -> exposure.opens(table, Exposed.RESTORE);
            case "replace" -> exposure.opens(table, Exposed.REPLACE);
            default -> exposure.opens(table, Exposed.PURGE);
        };
    }

    private @Nullable TableName named(String table) {
        List<TableName> known = vacancy.schema().tables().stream()
                .map(each -> each.name())
                .filter(each -> each.is(table))
                .toList();
        return known.size() == 1 ? known.get(0) : null;
    }

    /** Whether what is asked about is open to clients, as far as the request tells. */
    public void wantsOpen(Request request, boolean named) {
        String table = request.table();
        ReceiptId receipt = request.operation() instanceof Operation.Restore restore
                ? restore.receipt()
                : request.operation() instanceof Operation.Purge purge ? purge.receipt() : null;
        for (Request other : request.others()) {
            TableName more = other.table() == null ? null : named(other.table());
            if (more == null || !exposure.opens(more, request.operation())) {
                throw closed();
            }
        }
        if (named) {
            return;
        }
        List<@Nullable TableName> names = new ArrayList<>();
        if (table == null) {
            names.addAll(vacancy.receipt(receipt == null ? missing() : receipt)
                    .map(Receipt::selectedFrom)
                    .orElse(List.of()));
        } else {
            names.add(named(table));
        }
        if (names.isEmpty()) {
            throw closed();
        }
        for (TableName name : names) {
            if (name == null || !exposure.opens(name, request.operation())) {
                throw closed();
            }
        }
    }

    private static ReceiptId missing() {
        throw closed();
    }

    private static @Nullable String text(ObjectNode node, String name) {
        JsonNode value = node.get(name);
        if (value == null) {
            return null;
        }
        if (!value.isTextual() || value.textValue().isBlank()) {
            throw malformed("\"" + name + "\" is a text.");
        }
        return value.textValue();
    }

    static ProblemException malformed(String detail) {
        return new ProblemException(400, "malformed", detail);
    }

    static ProblemException closed() {
        return new ProblemException(403, "refused", "This is not open to clients of this application.");
    }
}
