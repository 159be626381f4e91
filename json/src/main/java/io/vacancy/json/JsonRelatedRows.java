// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelatedRows.ColumnPair;
import io.vacancy.condition.RelatedRows.Side;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.json.internal.StrictJson;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Which related rows a condition looks at: {@code {"relation": "mooring.boat_id", "rows": "children"}}, or by the columns
 * that are compared: {@code {"table": "mooring", "of": "boat", "equal": [["boat_id", "id"]]}}.
 */
final class JsonRelatedRows {

    private static final Set<String> BY_RELATION = Set.of("relation", "rows");
    private static final Set<String> BY_COLUMNS = Set.of("table", "of", "equal");

    private JsonRelatedRows() {}

    static ObjectNode write(RelatedRows related) {
        ObjectNode node = JsonValue.NODES.objectNode();
        if (related instanceof RelatedRows.ByColumns by) {
            node.put("table", by.table()).put("of", by.of());
            ArrayNode equal = node.putArray("equal");
            by.pairs().forEach(pair -> equal.addArray().add(pair.column()).add(pair.of()));
            return node;
        }
        if (related instanceof RelatedRows.ByRelation by) {
            return node.put("relation", by.relation()).put("rows", word(by.side()));
        }
        RelatedRows.Resolved known = (RelatedRows.Resolved) related;
        return node.put("relation", known.relation().name()).put("rows", word(known.side()));
    }

    private static String word(Side side) {
        return side.name().toLowerCase(Locale.ROOT);
    }

    static RelatedRows read(JsonNode node) {
        Set<String> keys =
                Set.copyOf(node.properties().stream().map(Map.Entry::getKey).toList());
        if (keys.equals(BY_RELATION)) {
            String relation = StrictJson.text(node, "relation");
            return switch (StrictJson.text(node, "rows")) {
                case "children" -> RelatedRows.children(relation);
                case "parent" -> RelatedRows.parent(relation);
                default -> throw JsonCondition.refused("\"rows\" is children or parent");
            };
        }
        if (!keys.equals(BY_COLUMNS)) {
            throw JsonCondition.refused(
                    "\"exists\" requires {\"relation\": …, \"rows\": \"children\" or \"parent\"} and at most one condition");
        }
        List<ColumnPair> pairs = new ArrayList<>();
        for (JsonNode pair : StrictJson.list(node, "equal")) {
            if (!pair.isArray() || pair.size() != 2) {
                throw JsonCondition.refused("\"equal\" is a list of two columns each");
            }
            pairs.add(new ColumnPair(StrictJson.textOf(pair.get(0), "equal"), StrictJson.textOf(pair.get(1), "equal")));
        }
        return new RelatedRows.ByColumns(StrictJson.text(node, "table"), pairs, StrictJson.text(node, "of"));
    }
}
