// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.request.Limits;
import io.vacancy.request.MergeStep;
import io.vacancy.request.Mode;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Order;
import io.vacancy.request.ReplacementStep;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.request.SelectionStep;
import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Reads requests. What is read is built by the same factories and methods as in Java, so that a document can ask for
 * nothing that code could not; what only code may say, such as that no confirmation is needed, no document can.
 */
final class JsonRequestReader {

    private static final Set<String> KNOWN = Set.of(
            "version",
            "operation",
            "table",
            "selection",
            "and",
            "limit",
            "order-by",
            "plus",
            "because",
            "expect",
            "at-most",
            "at-most-in-all",
            "at-most-percent",
            "lock-timeout",
            "on-blocked",
            "include-marked",
            "archive",
            "rules",
            "id",
            "successor",
            "receipt",
            "due",
            "relation",
            "merge-into",
            "deleting-duplicates",
            "column");

    /** What is said of rows that are added, which are deleted as the first ones are. */
    private static final Set<String> SELECTING = Set.of("table", "selection", "and", "limit", "order-by");

    private static final Map<String, String> ONLY_CODE = Map.of(
            "without-confirmation", "that no confirmation is needed is for code to say",
            "accept-unasked", "only code may say that no confirmation is needed",
            "deletion", "a named deletion is made from the rule book, by its name and the values of its parameters",
            "decided-in-code", "its rows were chosen by code, which no document carries",
            "saved-copy", "its rows come from a saved copy, which no document carries");

    private JsonRequestReader() {}

    static Request read(JsonNode node) {
        StrictJson.wantsObject(node, "request");
        refuseUnknown(node, KNOWN, ONLY_CODE, "request");
        return completed(node, withOthers(node, narrowed(node, made(node))));
    }

    /** The same where the document may name a deletion of the rule book, which then says which rows. */
    static Request read(JsonNode node, Function<String, NamedDeletion> deletions) {
        String deletion = StrictJson.optional(node, "deletion");
        if (deletion == null) {
            return read(node);
        }
        StrictJson.wantsObject(node, "request");
        Set<String> known = new HashSet<>(KNOWN);
        known.addAll(List.of("deletion", "parameters"));
        Map<String, String> onlyCode = new HashMap<>(ONLY_CODE);
        onlyCode.remove("deletion");
        refuseUnknown(node, known, onlyCode, "request");
        Map<String, Object> values = new LinkedHashMap<>();
        StrictJson.object(node, "parameters")
                .properties()
                .forEach(value -> values.put(value.getKey(), StrictJson.value(value.getValue(), value.getKey())));
        String operation = StrictJson.optional(node, "operation");
        Mode mode = operation == null || operation.equals("delete")
                ? null
                : JsonReader.word(Mode.values(), Mode::word, operation);
        return completed(node, withOthers(node, deletions.apply(deletion).request(values, mode)));
    }

    private static Request narrowed(JsonNode node, Request made) {
        Request request = made;
        JsonNode and = node.get("and");
        request = and == null ? request : request.and(JsonCondition.read(and));
        for (JsonNode by : StrictJson.list(node, "order-by")) {
            Order order = Order.read(StrictJson.textOf(by, "order-by"));
            request = order.descending() ? request.orderByDescending(order.column()) : request.orderBy(order.column());
        }
        Long limit = StrictJson.whole(node, "limit");
        return limit == null ? request : request.limit(limit);
    }

    private static Request withOthers(JsonNode node, Request first) {
        Request request = first;
        for (JsonNode other : StrictJson.list(node, "plus")) {
            StrictJson.wantsObject(other, "request that is added");
            refuseUnknown(other, SELECTING, ONLY_CODE, "request that is added to another one");
            ObjectNode whole = other.deepCopy();
            whole.put("operation", first.operation().word());
            request = request.plus(narrowed(whole, made(whole)));
        }
        return request;
    }

    private static Request completed(JsonNode node, Request selecting) {
        Request request = selecting;
        String because = StrictJson.optional(node, "because");
        request = because == null ? request : request.because(because);
        String id = StrictJson.optional(node, "id");
        request = id == null ? request : request.id(id);
        Limits limits = new Limits(
                StrictJson.whole(node, "expect"),
                StrictJson.whole(node, "at-most"),
                StrictJson.whole(node, "at-most-in-all"),
                StrictJson.number(node, "at-most-percent"));
        request = limits.equals(Limits.NONE) ? request : request.limits(limits);
        String wait = StrictJson.optional(node, "lock-timeout");
        request = wait == null ? request : request.lockTimeout(Duration.parse(wait));
        String onBlocked = StrictJson.optional(node, "on-blocked");
        request = onBlocked == null
                ? request
                : request.onBlocked(JsonReader.word(OnBlocked.values(), OnBlocked::word, onBlocked));
        request = StrictJson.truth(node, "include-marked", false) ? request.includingMarked() : request;
        request = StrictJson.truth(node, "archive", true) ? request : request.withoutArchive();
        for (Map.Entry<String, String> rule :
                rules(StrictJson.object(node, "rules")).entrySet()) {
            request = request.rule(rule.getKey(), rule.getValue());
        }
        return request;
    }

    /** A key that is not read would be a wish that nobody hears. */
    private static void refuseUnknown(JsonNode node, Set<String> known, Map<String, String> onlyCode, String what) {
        Iterator<String> keys = node.fieldNames();
        while (keys.hasNext()) {
            String key = keys.next();
            String why = onlyCode.get(key);
            if (why != null) {
                throw new MisuseException(
                        "The document has \"" + key + "\": " + why + ".", "Make the request anew in code.");
            }
            if (!known.contains(key)) {
                throw new MisuseException("The document has \"" + key + "\", which does not belong in a " + what + ".");
            }
        }
    }

    private static Request made(JsonNode node) {
        String operation = StrictJson.text(node, "operation");
        String receipt = StrictJson.optional(node, "receipt");
        refuse(node, "successor", operation.equals("replace"), operation);
        refuse(node, "receipt", operation.equals("restore") || operation.equals("purge"), operation);
        refuse(node, "due", operation.equals("purge"), operation);
        refuse(node, "relation", operation.equals("unlink-orphans"), operation);
        refuse(node, "merge-into", operation.equals("merge"), operation);
        refuse(node, "deleting-duplicates", operation.equals("merge"), operation);
        refuse(node, "column", operation.equals("drop"), operation);
        if (operation.equals("unlink-orphans")) {
            refuse(node, "table", false, operation);
            refuse(node, "selection", false, operation);
            return Request.unlinkOrphans(StrictJson.text(node, "relation"));
        }
        if (receipt != null && !node.has("table")) {
            refuse(node, "selection", false, operation);
            ReceiptId of = ReceiptId.of(receipt);
            return operation.equals("restore") ? Request.restore(of) : Request.purge(of);
        }
        String table = StrictJson.text(node, "table");
        if (operation.equals("truncate")) {
            refuse(node, "selection", everyRow(node), operation);
            return Request.truncate(table);
        }
        if (operation.equals("drop")) {
            refuse(node, "selection", everyRow(node), operation);
            String column = StrictJson.optional(node, "column");
            return column == null ? Request.drop(table) : Request.dropColumn(table, column);
        }
        if (operation.equals("purge") && StrictJson.truth(node, "due", false)) {
            refuse(node, "selection", everyRow(node), operation);
            return Request.purgeDue(table);
        }
        Selection selection = JsonSelection.read(node.path("selection"));
        if (operation.equals("replace")) {
            return replacement(table, selection, StrictJson.need(node, "successor"));
        }
        if (operation.equals("merge")) {
            return merge(table, selection, node);
        }
        if (operation.equals("forget")) {
            return person(table, selection);
        }
        if (receipt != null) {
            if (operation.equals("purge")) {
                throw new MisuseException(
                        "A purge has a receipt or a table, and the document has both.", "Leave one of them out.");
            }
            return selected(Request.restore(ReceiptId.of(receipt), table), selection);
        }
        SelectionStep step =
                switch (operation) {
                    case "delete" -> Request.delete(table);
                    case "erase" -> Request.erase(table);
                    case "soft-delete" -> Request.softDelete(table);
                    case "blank" -> Request.blank(table);
                    case "restore" -> Request.restore(table);
                    case "purge" -> Request.purge(table);
                    default ->
                        throw new MisuseException(
                                "The document's operation \"" + operation + "\" is unknown.",
                                "Give delete, erase, soft-delete, replace, merge, blank, forget, restore, purge, truncate,"
                                        + " drop or unlink-orphans.");
                };
        return selected(step, selection);
    }

    private static Request person(String table, Selection selection) {
        if (selection instanceof Selection.ByKeys by && by.keys().size() == 1) {
            return Request.forget(table).key(by.keys().iterator().next());
        }
        if (selection instanceof Selection.ByMatch match) {
            return Request.forget(table).matching(match.values());
        }
        throw new MisuseException(
                "A request to forget is for one person, and the document selects rows in another way.",
                "Give one key, or match.");
    }

    private static boolean everyRow(JsonNode node) {
        return node.path("selection").isObject() && StrictJson.truth(node.path("selection"), "every-row", false);
    }

    private static void refuse(JsonNode node, String key, boolean fits, String operation) {
        if (!fits && node.has(key)) {
            throw new MisuseException(
                    "The document has \"" + key + "\", which a request to " + operation + " does not have.");
        }
    }

    private static Request selected(SelectionStep step, Selection selection) {
        if (selection instanceof Selection.ByKeys by) {
            return step.keys(by.keys());
        }
        if (selection instanceof Selection.ByMatch match) {
            return step.matching(match.values());
        }
        if (selection instanceof Selection.ByCondition by) {
            return step.where(by.condition());
        }
        return selection instanceof Selection.Orphans orphans ? step.orphansOf(orphans.relation()) : step.everyRow();
    }

    private static Request replacement(String table, Selection selection, JsonNode successor) {
        ReplacementStep step = Request.replace(table);
        ReplacementStep.Row row;
        if (selection instanceof Selection.ByKeys by && by.keys().size() == 1) {
            row = step.key(by.keys().iterator().next());
        } else if (selection instanceof Selection.ByMatch match) {
            row = step.matching(match.values());
        } else if (selection instanceof Selection.ByCondition by) {
            row = step.where(by.condition());
        } else {
            throw new MisuseException("A replacement is of one row.", "Select it by its key, a match or a condition.");
        }
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        StrictJson.wantsObject(successor, "successor");
        StrictJson.wantsObject(StrictJson.need(successor, "values"), "values");
        StrictJson.need(successor, "values")
                .properties()
                .forEach(value -> values.put(
                        value.getKey(),
                        value.getValue().isNull() ? null : StrictJson.value(value.getValue(), value.getKey())));
        JsonNode from = successor.path("from");
        ReplacementStep.Start start = row.with(values);
        return from.isNull() || from.isMissingNode() ? start.fromNow() : start.from(StrictJson.value(from, "from"));
    }

    private static Request merge(String table, Selection selection, JsonNode node) {
        MergeStep step = Request.merge(table);
        MergeStep.Row row;
        if (selection instanceof Selection.ByKeys by && by.keys().size() == 1) {
            row = step.key(by.keys().iterator().next());
        } else if (selection instanceof Selection.ByMatch match) {
            row = step.matching(match.values());
        } else {
            throw new MisuseException("One row is merged at a time.", "Select it by its key or a match.");
        }
        for (JsonNode relation : StrictJson.list(node, "deleting-duplicates")) {
            row = row.deletingDuplicates(StrictJson.textOf(relation, "deleting-duplicates"));
        }
        return row.into(JsonSelection.key(StrictJson.need(node, "merge-into"), "merge-into"));
    }

    static Map<String, String> rules(JsonNode node) {
        Map<String, String> rules = new LinkedHashMap<>();
        node.properties().forEach(rule -> rules.put(rule.getKey(), StrictJson.textOf(rule.getValue(), rule.getKey())));
        return rules;
    }
}
