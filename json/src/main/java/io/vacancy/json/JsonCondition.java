// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.All;
import io.vacancy.condition.Condition.Any;
import io.vacancy.condition.Condition.CaseFolded;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.CompareColumns;
import io.vacancy.condition.Condition.Comparison;
import io.vacancy.condition.Condition.Exists;
import io.vacancy.condition.Condition.Is;
import io.vacancy.condition.Condition.IsNull;
import io.vacancy.condition.Condition.LetterCase;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.Not;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.json.internal.StrictJson;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Conditions in the JSON encoding of CQL2, the Common Query Language of the OGC (21-065r2): {@code {"op": "<",
 * "args": [{"property": "left_on"}, {"date": "2020-01-01"}]}}. Beyond the standard there are {@code isTrue},
 * {@code isFalse}, {@code exists}, and {@code {"moment": …}} as a value.
 */
final class JsonCondition {

    private static final int DEEPEST = 100;

    private static final int LONGEST_TIME = 60;

    private JsonCondition() {}

    static ObjectNode write(Condition condition) {
        if (condition instanceof Compare compare) {
            return op(compare.comparison().sign(), property(compare.column()), value(compare.value()));
        }
        if (condition instanceof CompareColumns compare) {
            return op(compare.comparison().sign(), property(compare.column()), property(compare.other()));
        }
        if (condition instanceof OneOf oneOf) {
            ArrayNode values = JsonValue.NODES.arrayNode();
            oneOf.values().forEach(each -> values.add(value(each)));
            return op("in", property(oneOf.column()), values);
        }
        if (condition instanceof Like like) {
            return op("like", property(like.column()), JsonValue.of(like.pattern()));
        }
        if (condition instanceof Condition.Latest) {
            throw new IllegalArgumentException("the current version of a row is no condition of CQL2");
        }
        if (condition instanceof Condition.Duplicate) {
            throw new IllegalArgumentException("that another row has the same is no condition of CQL2");
        }
        if (condition instanceof Exists exists) {
            return exists.which() == null
                    ? op("exists", JsonRelatedRows.write(exists.related()))
                    : op("exists", JsonRelatedRows.write(exists.related()), write(exists.which()));
        }
        if (condition instanceof IsNull isNull) {
            return op("isNull", property(isNull.column()));
        }
        if (condition instanceof Is is) {
            return op(is.truth() ? "isTrue" : "isFalse", property(is.column()));
        }
        if (condition instanceof Not not) {
            return op("not", write(not.part()));
        }
        if (condition instanceof CaseFolded cased) {
            ObjectNode part = write(cased.part());
            ArrayNode args = (ArrayNode) part.get("args");
            ObjectNode function = op(cased.letters().name().toLowerCase(Locale.ROOT), args.get(0));
            args.set(0, function);
            return part;
        }
        if (condition instanceof All all) {
            return op("and", all.parts().stream().map(JsonCondition::write).toArray(JsonNode[]::new));
        }
        if (condition instanceof Any any) {
            return op("or", any.parts().stream().map(JsonCondition::write).toArray(JsonNode[]::new));
        }
        throw new IllegalStateException("no form for " + condition);
    }

    private static ObjectNode op(String op, JsonNode... args) {
        ObjectNode node = JsonValue.NODES.objectNode().put("op", op);
        node.putArray("args").addAll(Arrays.asList(args));
        return node;
    }

    private static ObjectNode property(String column) {
        return JsonValue.NODES.objectNode().put("property", column);
    }

    private static JsonNode value(Object value) {
        if (value instanceof LocalDate date) {
            return JsonValue.NODES.objectNode().put("date", date.toString());
        }
        // The standard's timestamps are points in time; one without an offset is ours, for columns without one.
        if (value instanceof OffsetDateTime || value instanceof LocalDateTime) {
            return JsonValue.NODES.objectNode().put("timestamp", value.toString());
        }
        if (value instanceof RelativeTime moment) {
            ObjectNode node = JsonValue.NODES.objectNode();
            node.putObject("moment")
                    .put("date", moment.date())
                    .put("amount", moment.amount())
                    .put("unit", moment.unit().name().toLowerCase(Locale.ROOT));
            return node;
        }
        return JsonValue.of(value);
    }

    static Condition read(JsonNode node) {
        return read(node, 0);
    }

    private static Condition read(JsonNode node, int depth) {
        if (depth > DEEPEST) {
            throw refused("it is nested deeper than " + DEEPEST);
        }
        if (!node.isObject() || !node.path("op").isTextual() || node.size() != 2) {
            throw refused("here an object with \"op\" and \"args\" and nothing else is wanted");
        }
        String op = node.path("op").textValue();
        JsonNode args = node.path("args");
        return switch (op) {
            case "and", "or" -> {
                List<Condition> parts = new ArrayList<>();
                StrictJson.list(node, "args").forEach(arg -> parts.add(read(arg, depth + 1)));
                if (parts.size() < 2) {
                    throw refused("\"" + op + "\" requires two conditions or more");
                }
                yield op.equals("and") ? new All(parts) : new Any(parts);
            }
            case "not" -> new Not(read(arg(args, 1, 0), depth + 1));
            case "exists" -> {
                RelatedRows related = JsonRelatedRows.read(args.path(0));
                yield args.size() == 1 ? related.exists() : related.exists(read(arg(args, 2, 1), depth + 1));
            }
            case "isNull" -> new IsNull(column(arg(args, 1, 0)));
            case "isTrue", "isFalse" -> new Is(column(arg(args, 1, 0)), op.equals("isTrue"));
            case "between" -> {
                JsonNode column = arg(args, 3, 0);
                yield cased(column, name -> new Compare(name, Comparison.AT_LEAST, given(args.get(1))))
                        .and(cased(column, name -> new Compare(name, Comparison.AT_MOST, given(args.get(2)))));
            }
            case "in" -> {
                List<Object> values = new ArrayList<>();
                if (!arg(args, 2, 1).isArray()) {
                    throw refused("\"in\" requires a list of values");
                }
                args.get(1).forEach(each -> values.add(given(each)));
                if (values.isEmpty()) {
                    throw refused("\"in\" requires a list of values");
                }
                yield cased(args.get(0), name -> new OneOf(name, values));
            }
            case "like" -> {
                if (!arg(args, 2, 1).isTextual()) {
                    throw refused("\"like\" requires a text as its pattern");
                }
                yield cased(args.get(0), name -> new Like(name, args.get(1).asText()));
            }
            default -> comparison(op, args);
        };
    }

    private static Condition comparison(String op, JsonNode args) {
        for (Comparison comparison : Comparison.values()) {
            if (comparison.sign().equals(op)) {
                JsonNode right = arg(args, 2, 1);
                return right.has("property")
                        ? new CompareColumns(column(args.get(0)), comparison, column(right))
                        : cased(args.get(0), name -> new Compare(name, comparison, given(right)));
            }
        }
        throw refused("\"" + op + "\" is none of its operators");
    }

    private interface OnColumn {
        Condition of(String column);
    }

    private static Condition cased(JsonNode left, OnColumn part) {
        for (LetterCase letters : LetterCase.values()) {
            if (left.path("op").asText().equalsIgnoreCase(letters.name())) {
                return new CaseFolded(letters, part.of(column(arg(left.path("args"), 1, 0))));
            }
        }
        return part.of(column(left));
    }

    private static JsonNode arg(JsonNode args, int wanted, int index) {
        if (!args.isArray() || args.size() != wanted) {
            throw refused("an operator has " + args.size() + " arguments and requires " + wanted);
        }
        return args.get(index);
    }

    private static String column(JsonNode node) {
        if (!node.path("property").isTextual()) {
            throw refused("here a {\"property\": column} is wanted");
        }
        return node.path("property").asText();
    }

    private static Object given(JsonNode node) {
        if (node.isNull()) {
            throw refused("a comparison with null is never true; use isNull");
        }
        if (node.isObject()) {
            return time(node);
        }
        return StrictJson.value(node, "a value of the condition");
    }

    private static Object time(JsonNode node) {
        if (node.size() != 1) {
            throw refused("here a plain value is wanted");
        }
        if (node.has("date")) {
            return LocalDate.parse(shortText(node, "date"));
        }
        if (node.has("timestamp")) {
            String time = shortText(node, "timestamp");
            int zone = Math.max(time.lastIndexOf('+'), time.lastIndexOf('-'));
            return time.endsWith("Z") || zone > time.indexOf('T')
                    ? (Object) OffsetDateTime.parse(time)
                    : LocalDateTime.parse(time);
        }
        JsonNode moment = node.path("moment");
        if (!moment.isObject()) {
            throw refused("here a plain value is wanted");
        }
        String unit = StrictJson.optional(moment, "unit");
        Long amount = StrictJson.whole(moment, "amount");
        return new RelativeTime(
                StrictJson.truth(moment, "date", false),
                amount == null ? 0 : amount,
                ChronoUnit.valueOf((unit == null ? "days" : unit).toUpperCase(Locale.ROOT)));
    }

    /** No date or time is longer, and reading a longer text could take long. */
    private static String shortText(JsonNode node, String key) {
        String text = StrictJson.text(node, key);
        if (text.length() > LONGEST_TIME) {
            throw refused("\"" + key + "\" has " + text.length() + " characters");
        }
        return text;
    }

    static MisuseException refused(String reason) {
        return new MisuseException(
                "The condition is refused: " + reason + ".",
                "A condition is a CQL2 JSON object with and, or, not, =, <>, <, <=, >, >=, between, in, like, isNull,"
                        + " isTrue and isFalse over {\"property\": column}, and exists over {\"relation\": …}.");
    }
}
