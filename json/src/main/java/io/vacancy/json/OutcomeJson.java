// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Estimate;
import io.vacancy.preview.Preview;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.question.Question;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Previews, outcomes and receipts as nodes. */
final class OutcomeJson {

    private static final JsonNodeFactory NODES = JsonValue.NODES;

    private OutcomeJson() {}

    static ObjectNode document(Preview preview) {
        ObjectNode document = NODES.objectNode();
        document.put("version", JsonWriter.VERSION);
        document.put("table", preview.table().toString());
        operation(document, preview.operation());
        document.put("state", preview.state().word());
        if (preview.refusal() != null) {
            document.put("refusal", preview.refusal());
        }
        rows(preview.records(), preview.table(), document, "records");
        selectedFrom(preview.impact().selectedFrom(), document);
        document.set("effects", effects(preview.effects()));
        document.set("blockers", blockers(preview.blockers()));
        document.set("skipped", sample(preview.skipped()));
        document.set("skipped-by", skipReasons(preview.skippedBy()));
        ObjectNode missing =
                document.putObject("missing").put("rows", preview.missing().rows());
        rows(preview.missing().sample(), preview.table(), missing, "sample");
        document.set("totals", totals(preview.totals()));
        document.set("present", present(preview.impact().present()));
        document.put("archived", preview.impact().archived());
        document.put("saved-to", preview.impact().savedTo());
        document.set("active-counts", activeCounts(preview.impact().activeCounts()));
        definition(preview.impact().definition(), document);
        document.set("warnings", JsonWriter.texts(preview.warnings()));
        document.set("question", question(preview.question()));
        document.put("approval", preview.approval());
        document.set("estimate", estimate(preview.estimate()));
        document.put("fingerprint", preview.fingerprint());
        document.set("request", JsonRequest.write(preview.request()));
        return document;
    }

    static ObjectNode document(Outcome outcome) {
        if (outcome instanceof Outcome.Done done) {
            ObjectNode document = document(done.receipt());
            document.put("repeated", done.repeated());
            document.set("after-commit", JsonWriter.texts(done.warnings()));
            return document;
        }
        ObjectNode document = NODES.objectNode();
        document.put("version", JsonWriter.VERSION);
        document.put("state", outcome.state().word());
        document.put("message", outcome.message());
        if (outcome instanceof Outcome.Changed changed) {
            document.set("differences", JsonWriter.texts(changed.differences()));
        } else if (outcome instanceof Outcome.Nothing nothing) {
            document.set("preview", document(nothing.preview()));
        } else if (outcome instanceof Outcome.Blocked blocked) {
            document.set("preview", document(blocked.preview()));
        } else if (outcome instanceof Outcome.Declined declined) {
            document.set("preview", document(declined.preview()));
        } else if (outcome instanceof Outcome.Refused refused) {
            document.set("preview", document(refused.preview()));
        } else if (outcome instanceof Outcome.Waiting waiting) {
            document.put(
                    "waiting",
                    waiting.question() == null ? null : waiting.question().value());
            document.set("preview", document(waiting.preview()));
        } else if (outcome instanceof Outcome.Busy busy) {
            document.put("table", busy.table());
        } else if (outcome instanceof Outcome.InDoubt doubt) {
            document.put("receipt", doubt.receipt().value());
        }
        return document;
    }

    private static ObjectNode document(Receipt receipt) {
        ObjectNode document = NODES.objectNode();
        document.put("version", JsonWriter.VERSION);
        document.put("table", receipt.table().toString());
        operation(document, receipt.operation());
        document.put("state", "done");
        document.put("receipt", receipt.id().value());
        document.put("by", receipt.by());
        document.put("at", receipt.at().toString());
        document.put("because", receipt.because());
        document.put("without-confirmation", receipt.withoutConfirmation());
        document.put("deletion", receipt.deletion());
        ObjectNode rules = document.putObject("rules");
        receipt.rules().forEach(rules::put);
        document.set("skipped", sample(receipt.skipped()));
        document.put("archived", receipt.archived());
        document.put("saved-to", receipt.savedTo());
        document.set("active-counts", activeCounts(receipt.activeCounts()));
        document.set("effects", effects(receipt.effects()));
        document.set("totals", totals(receipt.totals()));
        document.set("warnings", JsonWriter.texts(receipt.warnings()));
        rows(receipt.records(), receipt.table(), document, "records");
        selectedFrom(receipt.selectedFrom(), document);
        definition(receipt.definition(), document);
        return document;
    }

    private static void definition(List<String> statements, ObjectNode document) {
        if (!statements.isEmpty()) {
            document.set("definition", JsonWriter.texts(statements));
        }
    }

    /** Rows of the first table under a key; beside them those of others that were selected with it. */
    private static void rows(List<Row> rows, TableName table, ObjectNode document, String key) {
        Map<TableName, List<Row>> others = new LinkedHashMap<>();
        List<Row> own = new ArrayList<>();
        for (Row row : rows) {
            if (row.table().equals(table)) {
                own.add(row);
            } else {
                others.computeIfAbsent(row.table(), of -> new ArrayList<>()).add(row);
            }
        }
        document.set(key, JsonValue.of(own));
        if (!others.isEmpty()) {
            ObjectNode more = document.putObject("other-" + key);
            others.forEach((of, some) -> more.set(of.toString(), JsonValue.of(some)));
        }
    }

    private static void selectedFrom(List<TableName> tables, ObjectNode document) {
        if (tables.size() > 1) {
            document.set(
                    "selected-from",
                    JsonWriter.texts(tables.stream().map(TableName::toString).toList()));
        }
    }

    /** With the mode of a deletion beside it, where it is one. */
    private static void operation(ObjectNode document, OperationKind operation) {
        document.put("operation", operation.word());
        String mode =
                switch (operation) {
                    case ERASE, TRUNCATE -> OperationKind.ERASE.word();
                    case SOFT_DELETE -> OperationKind.SOFT_DELETE.word();
                    case REPLACE, MERGE, BLANK, FORGET, RESTORE, PURGE, DROP, UNLINK_ORPHANS -> null;
                };
        document.put("mode", mode);
    }

    private static ArrayNode effects(List<Effect> effects) {
        ArrayNode nodes = NODES.arrayNode();
        for (Effect effect : effects) {
            nodes.addObject()
                    .put("table", effect.table().toString())
                    .put("action", effect.action().word())
                    .put("relation", effect.relation())
                    .put("becomes", effect.becomes())
                    .put("rows", effect.rows())
                    .set("sample", JsonValue.of(effect.sample()));
        }
        return nodes;
    }

    private static ArrayNode blockers(List<Blocker> blockers) {
        ArrayNode nodes = NODES.arrayNode();
        for (Blocker blocker : blockers) {
            ObjectNode node = nodes.addObject()
                    .put("table", blocker.table().toString())
                    .put("relation", blocker.relation())
                    .put("rows", blocker.rows())
                    .put("reason", blocker.reason());
            node.set("permitted-rules", JsonWriter.texts(blocker.permittedRules()));
            node.set("sample", JsonValue.of(blocker.sample()));
        }
        return nodes;
    }

    private static ArrayNode skipReasons(List<SkipReason> skipReasons) {
        ArrayNode nodes = NODES.arrayNode();
        for (SkipReason skipping : skipReasons) {
            nodes.addObject()
                    .put("relation", skipping.relation())
                    .put("rows", skipping.rows())
                    .put("reason", skipping.reason())
                    .set("sample", JsonValue.of(skipping.sample()));
        }
        return nodes;
    }

    private static ObjectNode sample(RowSample sample) {
        ObjectNode node = NODES.objectNode();
        node.put("rows", sample.rows());
        node.set("sample", JsonValue.of(sample.sample()));
        return node;
    }

    private static ObjectNode totals(Map<Action, Long> totals) {
        ObjectNode node = NODES.objectNode();
        for (Action action : Action.values()) {
            Long rows = totals.get(action);
            if (rows != null) {
                node.put(action.word(), rows);
            }
        }
        return node;
    }

    private static ObjectNode present(Map<TableName, Long> present) {
        ObjectNode node = NODES.objectNode();
        present.forEach((table, rows) -> node.put(table.toString(), rows));
        return node;
    }

    private static @Nullable ObjectNode activeCounts(@Nullable ActiveCounts seen) {
        return seen == null
                ? null
                : NODES.objectNode()
                        .put("active-before", seen.activeBefore())
                        .put("stored-before", seen.storedBefore())
                        .put("active-after", seen.activeAfter())
                        .put("stored-after", seen.storedAfter())
                        .put("left-out", seen.leftOut());
    }

    private static @Nullable ObjectNode estimate(@Nullable Estimate estimate) {
        if (estimate == null) {
            return null;
        }
        ObjectNode node = NODES.objectNode();
        node.put("milliseconds", estimate.time().toMillis());
        node.put("receipts", estimate.receipts());
        node.put("rows-locked", estimate.rowsLocked());
        node.set("missing-indexes", JsonWriter.texts(estimate.missingIndexes()));
        return node;
    }

    private static ObjectNode question(Question question) {
        ObjectNode node = NODES.objectNode();
        node.put("strength", question.strength().word());
        node.put("title", question.title());
        node.set("consequences", JsonWriter.texts(question.consequences()));
        node.put("awaited", question.awaited());
        return node;
    }
}
