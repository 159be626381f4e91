// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.archive.SavedSource;
import io.vacancy.condition.Condition;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.request.Limits;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Operation;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** Requests as JSON; {@link JsonRequestReader} reads them. */
final class JsonRequest {

    private JsonRequest() {}

    static ObjectNode write(Request request) {
        ObjectNode node = JsonValue.NODES.objectNode();
        node.put("operation", request.operation().word());
        write(request.operation(), node);
        optional(node, "table", request.table());
        Selection selection = request.selection();
        if (selection != null && !(request.operation() instanceof Operation.UnlinkOrphans)) {
            node.set("selection", JsonSelection.write(selection));
        }
        Condition further = request.condition();
        if (further != null) {
            node.set("and", JsonCondition.write(further));
        }
        if (request.filter() != null) {
            node.put("decided-in-code", true);
        }
        if (request.first() != null) {
            node.put("limit", request.first());
        }
        if (!request.others().isEmpty()) {
            ArrayNode others = node.putArray("plus");
            request.others().forEach(other -> others.add(selecting(other)));
        }
        if (!request.order().isEmpty()) {
            ArrayNode order = node.putArray("order-by");
            request.order().forEach(by -> order.add(by.toString()));
        }
        optional(node, "because", request.reason());
        optional(node, "id", request.id());
        write(request.limits(), node);
        optional(node, "without-confirmation", request.withoutConfirmation());
        if (request.acceptedUnasked()) {
            node.put("accept-unasked", true);
        }
        Duration lockTimeout = request.lockTimeout();
        optional(node, "lock-timeout", lockTimeout == null ? null : lockTimeout.toString());
        optional(node, "deletion", request.deletion());
        if (!request.parameters().isEmpty()) {
            ObjectNode parameters = node.putObject("parameters");
            request.parameters().forEach((name, value) -> parameters.set(name, JsonValue.of(value)));
        }
        if (request.onBlocked() != OnBlocked.REFUSE) {
            node.put("on-blocked", request.onBlocked().word());
        }
        if (request.includesMarked() && !(request.operation() instanceof Operation.Forget)) {
            node.put("include-marked", true);
        }
        if (!request.archived()) {
            node.put("archive", false);
        }
        if (!request.rules().isEmpty()) {
            ObjectNode rules = node.putObject("rules");
            request.rules().forEach(rules::put);
        }
        return node;
    }

    /** Another table's rows in the same request, whose operation is said already. */
    private static ObjectNode selecting(Request other) {
        ObjectNode node = write(other);
        node.remove("operation");
        return node;
    }

    private static void write(Limits limits, ObjectNode node) {
        if (limits.expect() != null) {
            node.put("expect", limits.expect());
        }
        if (limits.atMost() != null) {
            node.put("at-most", limits.atMost());
        }
        if (limits.atMostInAll() != null) {
            node.put("at-most-in-all", limits.atMostInAll());
        }
        if (limits.atMostPercent() != null) {
            node.put("at-most-percent", limits.atMostPercent());
        }
    }

    private static void write(Operation operation, ObjectNode node) {
        if (operation instanceof Operation.Replace replace) {
            ObjectNode next = node.putObject("successor");
            if (replace.from() != null) {
                next.set("from", JsonValue.of(replace.from()));
            }
            ObjectNode values = next.putObject("values");
            replace.values().forEach((column, value) -> values.set(column, JsonValue.of(value)));
        } else if (operation instanceof Operation.Restore restore) {
            SavedSource source = restore.source();
            optional(node, "receipt", restore.receipt());
            optional(node, "saved-copy", source == null ? null : source.receipt());
            if (!restore.into().isEmpty()) {
                restore.into().forEach(node.putArray("into")::add);
            }
        } else if (operation instanceof Operation.Purge purge) {
            optional(node, "receipt", purge.receipt());
            if (purge.due()) {
                node.put("due", true);
            }
        } else if (operation instanceof Operation.Merge merge) {
            node.set("merge-into", JsonSelection.write(merge.into()));
            if (!merge.deletingDuplicates().isEmpty()) {
                merge.deletingDuplicates().forEach(node.putArray("deleting-duplicates")::add);
            }
        } else if (operation instanceof Operation.Drop drop) {
            optional(node, "column", drop.column());
        } else if (operation instanceof Operation.UnlinkOrphans unlink) {
            node.put("relation", unlink.relation());
        }
    }

    private static void optional(ObjectNode node, String key, @Nullable Object value) {
        if (value != null) {
            node.put(key, value.toString());
        }
    }
}
