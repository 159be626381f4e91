// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.databind.JsonNode;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.json.internal.StrictJson;
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
import io.vacancy.request.NamedDeletion;
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
            return JsonCondition.read(StrictJson.read(Arguments.notNull(json, "json")));
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
        return reading(json, "request", JsonRequestReader::read);
    }

    /**
     * The same, which may also name a deletion of the rule book and the values of its parameters.
     *
     * @param deletions by their names, such as {@code vacancy.rules()::deletion}
     * @throws MisuseException if the text is anything else, or there is no such deletion
     */
    public static Request request(String json, Function<String, NamedDeletion> deletions) {
        Arguments.notNull(deletions, "deletions");
        return reading(json, "request", node -> JsonRequestReader.read(node, deletions));
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
                node -> Answer.of(StrictJson.text(node, "fingerprint"), StrictJson.optional(node, "text")));
    }

    private interface Form<T> {
        T read(JsonNode node);
    }

    private static <T> T reading(String json, String what, Form<T> form) {
        try {
            JsonNode document = StrictJson.read(Arguments.notNull(json, "json"));
            if (!document.path("version").isInt() || document.path("version").intValue() != 1) {
                throw new MisuseException("This is not a " + what + " of version 1.");
            }
            return form.read(document);
        } catch (DateTimeException | IllegalArgumentException wrong) {
            throw new MisuseException("This is not a " + what + ": " + wrong.getMessage() + ".");
        }
    }

    private PreviewDocument preview(JsonNode node) {
        TableName table = table(node);
        Question question = question(StrictJson.need(node, "question"), StrictJson.text(node, "fingerprint"));
        Impact impact = Impact.builder()
                .records(rows(table, node, "records"))
                .effects(effects(StrictJson.need(node, "effects")), totals(StrictJson.need(node, "totals")))
                .blockers(blockers(StrictJson.need(node, "blockers")))
                .skipped(
                        sample(table, StrictJson.need(node, "skipped")),
                        skipReasons(table, StrictJson.need(node, "skipped-by")))
                .missing(sample(table, StrictJson.need(node, "missing")))
                .selectedFrom(selectedFrom(node))
                .present(present(StrictJson.need(node, "present")))
                .warnings(texts(StrictJson.need(node, "warnings")))
                .fingerprint(StrictJson.text(node, "fingerprint"))
                .activeCounts(activeCounts(node.path("active-counts")))
                .archived(node.path("archived").asBoolean())
                .savedTo(StrictJson.optional(node, "saved-to"))
                .definition(texts(StrictJson.list(node, "definition")))
                .build();
        return new PreviewDocument(
                table,
                operation(node),
                word(Preview.State.values(), Preview.State::word, StrictJson.text(node, "state")),
                StrictJson.optional(node, "refusal"),
                impact,
                question);
    }

    private static OperationKind operation(JsonNode node) {
        return word(OperationKind.values(), OperationKind::word, StrictJson.text(node, "operation"));
    }

    /** Receipts are kept for years, so what earlier versions called otherwise is read as well. */
    private Receipt receipt(JsonNode node) {
        TableName table = table(node);
        JsonNode reason = either(node, "without-confirmation", "unasked");
        return Receipt.of(new Receipt.Data(
                ReceiptId.of(StrictJson.text(node, "receipt")),
                table,
                word(
                        OperationKind.values(),
                        OperationKind::word,
                        either(node, "operation", "mode").asText()),
                StrictJson.text(node, "by"),
                Instant.parse(StrictJson.text(node, "at")),
                StrictJson.optional(node, "because"),
                reason.isNull() ? null : reason.asText(),
                StrictJson.optional(node, "deletion"),
                JsonRequestReader.rules(StrictJson.need(node, "rules")),
                sample(table, either(node, "skipped", "spared")),
                rows(table, node, "records"),
                effects(StrictJson.need(node, "effects")),
                totals(StrictJson.need(node, "totals")),
                texts(StrictJson.need(node, "warnings")),
                either(node, "archived", "kept").asBoolean(),
                activeCounts(either(node, "active-counts", "visibility")),
                StrictJson.optional(node, "saved-to"),
                selectedFrom(node),
                texts(StrictJson.list(node, "definition"))));
    }

    private static List<TableName> selectedFrom(JsonNode node) {
        return texts(StrictJson.list(node, "selected-from")).stream()
                .map(JsonValue::table)
                .toList();
    }

    private static JsonNode either(JsonNode node, String key, String earlier) {
        return node.has(key) ? node.path(key) : StrictJson.need(node, earlier);
    }

    private static @Nullable ActiveCounts activeCounts(JsonNode node) {
        return node.isObject()
                ? new ActiveCounts(
                        count(node, "active-before"),
                        count(node, "stored-before"),
                        count(node, "active-after"),
                        count(node, "stored-after"),
                        count(node, "left-out"))
                : null;
    }

    private static Question question(JsonNode node, String fingerprint) {
        return new Question(
                word(Question.Strength.values(), Question.Strength::word, StrictJson.text(node, "strength")),
                StrictJson.text(node, "title"),
                texts(StrictJson.need(node, "consequences")),
                StrictJson.optional(node, "awaited"),
                fingerprint);
    }

    private List<Effect> effects(JsonNode nodes) {
        List<Effect> effects = new ArrayList<>();
        for (JsonNode node : nodes) {
            TableName table = table(node);
            Action action = word(Action.values(), Action::word, StrictJson.text(node, "action"));
            effects.add(new Effect(
                    table,
                    action,
                    StrictJson.optional(node, "relation"),
                    StrictJson.optional(node, "becomes"),
                    count(node, "rows"),
                    rows(table, StrictJson.need(node, "sample"))));
        }
        return effects;
    }

    private List<Blocker> blockers(JsonNode nodes) {
        List<Blocker> blockers = new ArrayList<>();
        for (JsonNode node : nodes) {
            TableName table = table(node);
            blockers.add(new Blocker(
                    table,
                    StrictJson.optional(node, "relation"),
                    count(node, "rows"),
                    StrictJson.text(node, "reason"),
                    rows(table, StrictJson.need(node, "sample")),
                    texts(StrictJson.need(node, "permitted-rules"))));
        }
        return blockers;
    }

    private List<SkipReason> skipReasons(TableName table, JsonNode nodes) {
        List<SkipReason> skipReasons = new ArrayList<>();
        for (JsonNode node : nodes) {
            skipReasons.add(new SkipReason(
                    StrictJson.text(node, "relation"),
                    count(node, "rows"),
                    StrictJson.text(node, "reason"),
                    rows(table, StrictJson.need(node, "sample"))));
        }
        return skipReasons;
    }

    private RowSample sample(TableName table, JsonNode node) {
        return new RowSample(count(node, "rows"), rows(table, node, "sample"));
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

    /** Rows of a table under a key, and of others beside it. */
    private List<Row> rows(TableName name, JsonNode node, String key) {
        List<Row> rows = new ArrayList<>(rows(name, StrictJson.need(node, key)));
        node.path("other-" + key)
                .properties()
                .forEach(other -> rows.addAll(rows(JsonValue.table(other.getKey()), other.getValue())));
        return rows;
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
        TableName name = JsonValue.table(StrictJson.text(node, "table"));
        Table known = known(name);
        return known == null ? name : known.name();
    }

    private @Nullable Table known(TableName name) {
        return schema.tables().stream()
                .filter(table -> table.name().equals(name))
                .findFirst()
                .orElse(null);
    }

    private static long count(JsonNode node, String key) {
        Long count = StrictJson.whole(node, key);
        if (count == null) {
            throw new MisuseException("The document lacks \"" + key + "\".");
        }
        return count;
    }

    static List<String> texts(JsonNode nodes) {
        List<String> texts = new ArrayList<>();
        nodes.forEach(node -> texts.add(StrictJson.textOf(node, "a text")));
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
