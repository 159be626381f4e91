// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.trail.TrailEntry;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Reads what {@link JsonWriter} wrote: previews as documents to show, requests, answers and receipts of version 1. The schema
 * tells of which class the values of rows are. Serves all threads.
 */
public final class JsonReader {

    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .nodeFactory(JsonValue.NODES)
            .build();

    private final Schema schema;

    public JsonReader(Schema schema) {
        this.schema = Arguments.notNull(schema, "schema");
    }

    /**
     * What a preview's document says, to be shown; it cannot be executed.
     *
     * @throws MisuseException if the text is not a preview of version 1 over this schema
     */
    public PreviewDocument preview(String json) {
        return reading(json, "preview", this::preview);
    }

    /** @throws MisuseException if the text is not a receipt of version 1 over this schema */
    public Receipt receipt(String json) {
        return reading(json, "receipt", this::receipt);
    }

    /**
     * A condition in the JSON encoding of CQL2 (OGC 21-065r2), without a version of ours around it.
     *
     * @throws MisuseException if the text is anything else, with the reason
     */
    public static Condition condition(String json) {
        try {
            return JsonCondition.read(MAPPER.readTree(json));
        } catch (JsonProcessingException notJson) {
            throw new MisuseException("This is not JSON: " + notJson.getOriginalMessage() + ".");
        } catch (DateTimeException | IllegalArgumentException wrong) {
            throw new MisuseException("The condition is refused: " + wrong.getMessage() + ".");
        }
    }

    /**
     * A request of version 1, as it stands in a preview or as another front end writes it.
     *
     * @throws MisuseException if the text is anything else
     */
    public static Request request(String json) {
        return reading(json, "request", JsonRequest::read);
    }

    /**
     * An entry of the trail, of version 1.
     *
     * @throws MisuseException if the text is anything else
     */
    public static TrailEntry entry(String json) {
        return reading(json, "entry of the trail", JsonEntry::read);
    }

    /** @throws MisuseException if the text is not an answer */
    public Answer answer(String json) {
        return reading(json, "answer", node -> Answer.of(text(node, "fingerprint"), optional(node, "text")));
    }

    private interface Form<T> {
        T read(JsonNode node);
    }

    private static <T> T reading(String json, String what, Form<T> form) {
        try {
            JsonNode document = MAPPER.readTree(json);
            if (document.path("version").asInt() != 1) {
                throw new MisuseException("This is not a " + what + " of version 1.");
            }
            return form.read(document);
        } catch (JsonProcessingException notJson) {
            throw new MisuseException("This is not JSON: " + notJson.getOriginalMessage() + ".");
        } catch (DateTimeException | IllegalArgumentException wrong) {
            throw new MisuseException("This is not a " + what + ": " + wrong.getMessage() + ".");
        }
    }

    private PreviewDocument preview(JsonNode node) {
        TableName table = table(node);
        Question question = question(need(node, "question"), text(node, "fingerprint"));
        Impact impact = Impact.builder()
                .records(rows(table, need(node, "records")))
                .effects(effects(need(node, "effects")), totals(need(node, "totals")))
                .blockers(blockers(need(node, "blockers")))
                .skipped(sample(table, need(node, "skipped")), skipReasons(table, need(node, "skipped-by")))
                .missing(sample(table, need(node, "missing")))
                .present(present(need(node, "present")))
                .warnings(texts(need(node, "warnings")))
                .fingerprint(text(node, "fingerprint"))
                .activeCounts(activeCounts(node.path("active-counts")))
                .archived(node.path("archived").asBoolean())
                .build();
        return new PreviewDocument(
                table,
                operation(node),
                word(Preview.State.values(), Preview.State::word, text(node, "state")),
                optional(node, "refusal"),
                impact,
                question);
    }

    private static OperationKind operation(JsonNode node) {
        return word(OperationKind.values(), OperationKind::word, text(node, "operation"));
    }

    /** Receipts are kept for years, so what earlier versions called otherwise is read as well. */
    private Receipt receipt(JsonNode node) {
        TableName table = table(node);
        JsonNode reason = either(node, "without-confirmation", "unasked");
        return Receipt.of(new Receipt.Data(
                ReceiptId.of(text(node, "receipt")),
                table,
                word(
                        OperationKind.values(),
                        OperationKind::word,
                        either(node, "operation", "mode").asText()),
                text(node, "by"),
                Instant.parse(text(node, "at")),
                optional(node, "because"),
                reason.isNull() ? null : reason.asText(),
                optional(node, "deletion"),
                JsonRequest.rules(need(node, "rules")),
                sample(table, either(node, "skipped", "spared")),
                rows(table, need(node, "records")),
                effects(need(node, "effects")),
                totals(need(node, "totals")),
                texts(need(node, "warnings")),
                either(node, "archived", "kept").asBoolean(),
                activeCounts(either(node, "active-counts", "visibility"))));
    }

    private static JsonNode either(JsonNode node, String key, String earlier) {
        return node.has(key) ? node.path(key) : need(node, earlier);
    }

    private static @Nullable ActiveCounts activeCounts(JsonNode node) {
        return node.isObject()
                ? new ActiveCounts(
                        need(node, "active-before").asLong(),
                        need(node, "stored-before").asLong(),
                        need(node, "active-after").asLong(),
                        need(node, "stored-after").asLong(),
                        need(node, "left-out").asLong())
                : null;
    }

    private static Question question(JsonNode node, String fingerprint) {
        return new Question(
                word(Question.Strength.values(), Question.Strength::word, text(node, "strength")),
                text(node, "title"),
                texts(need(node, "consequences")),
                optional(node, "awaited"),
                fingerprint);
    }

    private List<Effect> effects(JsonNode nodes) {
        List<Effect> effects = new ArrayList<>();
        for (JsonNode node : nodes) {
            TableName table = table(node);
            Action action = word(Action.values(), Action::word, text(node, "action"));
            effects.add(new Effect(
                    table,
                    action,
                    optional(node, "relation"),
                    optional(node, "becomes"),
                    need(node, "rows").asLong(),
                    rows(table, need(node, "sample"))));
        }
        return effects;
    }

    private List<Blocker> blockers(JsonNode nodes) {
        List<Blocker> blockers = new ArrayList<>();
        for (JsonNode node : nodes) {
            TableName table = table(node);
            blockers.add(new Blocker(
                    table,
                    optional(node, "relation"),
                    need(node, "rows").asLong(),
                    text(node, "reason"),
                    rows(table, need(node, "sample")),
                    texts(need(node, "permitted-rules"))));
        }
        return blockers;
    }

    private List<SkipReason> skipReasons(TableName table, JsonNode nodes) {
        List<SkipReason> skipReasons = new ArrayList<>();
        for (JsonNode node : nodes) {
            skipReasons.add(new SkipReason(
                    text(node, "relation"),
                    need(node, "rows").asLong(),
                    text(node, "reason"),
                    rows(table, need(node, "sample"))));
        }
        return skipReasons;
    }

    private RowSample sample(TableName table, JsonNode node) {
        return new RowSample(need(node, "rows").asLong(), rows(table, need(node, "sample")));
    }

    private static Map<Action, Long> totals(JsonNode node) {
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        node.properties()
                .forEach(entry -> totals.put(
                        word(Action.values(), Action::word, entry.getKey()),
                        entry.getValue().asLong()));
        return totals;
    }

    private static Map<TableName, Long> present(JsonNode node) {
        Map<TableName, Long> present = new LinkedHashMap<>();
        node.properties()
                .forEach(entry -> present.put(
                        JsonValue.table(entry.getKey()), entry.getValue().asLong()));
        return present;
    }

    private List<Row> rows(TableName name, JsonNode nodes) {
        Table table = known(name);
        List<Row> rows = new ArrayList<>();
        for (JsonNode node : nodes) {
            Map<String, @Nullable Object> values = new LinkedHashMap<>();
            node.properties()
                    .forEach(entry -> values.put(entry.getKey(), value(table, entry.getKey(), entry.getValue())));
            rows.add(new Row(name, values));
        }
        return rows;
    }

    private static @Nullable Object value(@Nullable Table table, String column, JsonNode node) {
        if (node.isNull()) {
            return null;
        }
        Object plain = JsonValue.plain(node);
        // A receipt may be older than the tables are now.
        Object typed = table == null || !table.has(column)
                ? null
                : table.column(column).type().kind().read(plain);
        return typed == null ? plain : typed;
    }

    private TableName table(JsonNode node) {
        TableName name = JsonValue.table(text(node, "table"));
        Table known = known(name);
        return known == null ? name : known.name();
    }

    private @Nullable Table known(TableName name) {
        return schema.tables().stream()
                .filter(table -> table.name().equals(name))
                .findFirst()
                .orElse(null);
    }

    static JsonNode need(JsonNode node, String key) {
        JsonNode value = node.get(key);
        if (value == null) {
            throw new MisuseException("The document lacks \"" + key + "\".");
        }
        return value;
    }

    static String text(JsonNode node, String key) {
        return need(node, key).asText();
    }

    static @Nullable String optional(JsonNode node, String key) {
        JsonNode value = node.get(key);
        return value == null || value.isNull() ? null : value.asText();
    }

    static List<String> texts(JsonNode nodes) {
        List<String> texts = new ArrayList<>();
        nodes.forEach(node -> texts.add(node.asText()));
        return texts;
    }

    static <E> E word(E[] known, Function<E, String> written, String word) {
        for (E each : known) {
            if (written.apply(each).equals(word)) {
                return each;
            }
        }
        throw new MisuseException("\"" + word + "\" is unknown here.");
    }
}
