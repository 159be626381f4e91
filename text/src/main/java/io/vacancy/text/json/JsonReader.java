package io.vacancy.text.json;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Portion;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Sparing;
import io.vacancy.preview.Visibility;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.Mode;
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
 * Reads what {@link JsonWriter} wrote: previews, questions, answers and receipts of version 1. The schema
 * tells of which class the values of rows are. Serves all threads.
 */
public final class JsonReader {

    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .nodeFactory(JsonValue.NODES)
            .build();

    private final Schema schema;

    public JsonReader(Schema schema) {
        this.schema = schema;
    }

    /** @throws MisuseException if the text is not a preview of version 1 over this schema */
    public Preview preview(String json) {
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
        return reading(
                json,
                "answer",
                node -> new Answer(text(node, "text"), need(node, "accepted").asBoolean(), text(node, "fingerprint")));
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

    private Preview preview(JsonNode node) {
        TableName table = table(node);
        Question question = question(need(node, "question"), text(node, "fingerprint"));
        Findings findings = new Findings(
                        rows(table, need(node, "records")),
                        effects(need(node, "effects")),
                        blockers(need(node, "blockers")),
                        portion(table, need(node, "spared")),
                        sparings(table, need(node, "spared-by")),
                        portion(table, need(node, "missing")),
                        totals(need(node, "totals")),
                        present(need(node, "present")),
                        texts(need(node, "warnings")),
                        text(node, "fingerprint"))
                .with(visibility(node.path("visibility")))
                .kept(node.path("kept").asBoolean());
        return new Preview(
                JsonRequest.read(need(node, "request")),
                table,
                word(Mode.values(), Mode::word, text(node, "mode")),
                word(Preview.State.values(), Preview.State::word, text(node, "state")),
                optional(node, "refusal"),
                findings,
                question);
    }

    private Receipt receipt(JsonNode node) {
        TableName table = table(node);
        return new Receipt(
                text(node, "receipt"),
                table,
                word(Mode.values(), Mode::word, text(node, "mode")),
                text(node, "by"),
                Instant.parse(text(node, "at")),
                optional(node, "because"),
                optional(node, "unasked"),
                optional(node, "deletion"),
                JsonRequest.rules(need(node, "rules")),
                portion(table, need(node, "spared")),
                rows(table, need(node, "records")),
                effects(need(node, "effects")),
                totals(need(node, "totals")),
                texts(need(node, "warnings")),
                need(node, "kept").asBoolean(),
                visibility(node.path("visibility")));
    }

    private static @Nullable Visibility visibility(JsonNode node) {
        return node.isObject()
                ? new Visibility(
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
                    texts(need(node, "ways-out"))));
        }
        return blockers;
    }

    private List<Sparing> sparings(TableName table, JsonNode nodes) {
        List<Sparing> sparings = new ArrayList<>();
        for (JsonNode node : nodes) {
            sparings.add(new Sparing(
                    text(node, "relation"),
                    need(node, "rows").asLong(),
                    text(node, "reason"),
                    rows(table, need(node, "sample"))));
        }
        return sparings;
    }

    private Portion portion(TableName table, JsonNode node) {
        return new Portion(need(node, "rows").asLong(), rows(table, need(node, "sample")));
    }

    private static Map<Action, Long> totals(JsonNode node) {
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        node.properties()
                .forEach(entry -> totals.put(
                        word(Action.values(), Action::word, entry.getKey()),
                        entry.getValue().asLong()));
        return totals;
    }

    private Map<TableName, Long> present(JsonNode node) {
        Map<TableName, Long> present = new LinkedHashMap<>();
        node.properties()
                .forEach(entry -> present.put(
                        schema.table(entry.getKey()).name(), entry.getValue().asLong()));
        return present;
    }

    private List<Row> rows(TableName name, JsonNode nodes) {
        Table table = schema.table(name);
        List<Row> rows = new ArrayList<>();
        for (JsonNode node : nodes) {
            Map<String, @Nullable Object> values = new LinkedHashMap<>();
            node.properties()
                    .forEach(entry -> values.put(entry.getKey(), value(table, entry.getKey(), entry.getValue())));
            rows.add(new Row(name, values));
        }
        return rows;
    }

    private static @Nullable Object value(Table table, String column, JsonNode node) {
        if (node.isNull()) {
            return null;
        }
        Object plain = JsonValue.plain(node);
        Object typed = table.column(column).type().kind().read(plain);
        return typed == null ? plain : typed;
    }

    private TableName table(JsonNode node) {
        return schema.table(text(node, "table")).name();
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
        throw new MisuseException("\"" + word + "\" is no word that is known here.");
    }
}
