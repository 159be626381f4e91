// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.jobs.internal.store.KeptJob.Account;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobSettings;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.preview.Action;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** What the columns of jobs keep as JSON. */
final class Documents {

    private static final ObjectMapper MAPPER = new ObjectMapper();

    private Documents() {}

    static String written(JobSettings settings) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("onChange", settings.onChange().word());
        json.put("timeGoal", settings.batches().timeGoal().toString());
        json.put("mostRows", settings.batches().mostRows());
        json.put("mostBytes", settings.batches().mostBytes());
        json.put("mostSelected", settings.batches().mostSelected());
        json.put("rowsPerSecond", settings.pace().rowsPerSecond());
        json.put("share", settings.pace().share());
        Window window = settings.window();
        json.put("window", window == null ? null : window.written());
        Recurrence every = settings.every();
        json.put("every", every == null ? null : every.written());
        json.put("lanes", settings.lanes());
        json.set("context", MAPPER.valueToTree(settings.context()));
        json.set("recipients", MAPPER.valueToTree(settings.recipients()));
        return json.toString();
    }

    static JobSettings settings(String written) {
        JsonNode json = read(written);
        String window = text(json, "window");
        String every = text(json, "every");
        JsonNode mostRows = json.path("mostRows");
        JsonNode mostBytes = json.path("mostBytes");
        JsonNode rowsPerSecond = json.path("rowsPerSecond");
        return new JobSettings(
                Arrays.stream(ChangePolicy.values())
                        .filter(policy -> policy.word().equals(text(json, "onChange")))
                        .findFirst()
                        .orElse(ChangePolicy.STOP),
                new BatchSize(
                        Duration.parse(json.path("timeGoal").asText()),
                        mostRows.isNumber() ? mostRows.longValue() : null,
                        mostBytes.isNumber() ? mostBytes.longValue() : null,
                        json.path("mostSelected").intValue()),
                new Throttling(
                        rowsPerSecond.isNumber() ? rowsPerSecond.doubleValue() : null,
                        json.path("share").doubleValue()),
                window == null ? null : Window.read(window, ZoneOffset.UTC),
                every == null ? null : Recurrence.read(every, ZoneOffset.UTC),
                json.path("lanes").intValue(),
                texts(json.path("context")),
                list(json.path("recipients")));
    }

    static String written(Account account) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("onBehalfOf", account.onBehalfOf());
        json.set("origin", MAPPER.valueToTree(account.origin()));
        return json.toString();
    }

    static Account account(String written) {
        JsonNode json = read(written);
        return new Account(text(json, "onBehalfOf"), texts(json.path("origin")));
    }

    static String written(JobProgress progress) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("handled", progress.handled());
        ObjectNode totals = json.putObject("totals");
        progress.totals().forEach((action, rows) -> totals.put(action.name(), rows));
        json.set("tables", MAPPER.valueToTree(new TreeMap<>(progress.tables())));
        json.put("changed", progress.changed());
        json.put("missing", progress.missing());
        json.put("skipped", progress.skipped());
        json.put("batches", progress.batches());
        json.put("retries", progress.retries());
        json.put("selectedInBatch", progress.selectedInBatch());
        json.put("workedMillis", progress.worked().toMillis());
        json.put("table", progress.table());
        json.put("note", progress.note());
        return json.toString();
    }

    static JobProgress progress(@Nullable String written, @Nullable Long selected, @Nullable Long expected) {
        JsonNode json = written == null ? MAPPER.createObjectNode() : read(written);
        Map<Action, Long> totals = new TreeMap<>();
        json.path("totals")
                .properties()
                .forEach(total -> totals.put(
                        Action.valueOf(total.getKey()), total.getValue().longValue()));
        Map<String, Long> tables = new TreeMap<>();
        json.path("tables")
                .properties()
                .forEach(table -> tables.put(table.getKey(), table.getValue().longValue()));
        return new JobProgress(
                selected,
                expected,
                json.path("handled").longValue(),
                totals,
                tables,
                json.path("changed").longValue(),
                json.path("missing").longValue(),
                json.path("skipped").longValue(),
                json.path("batches").longValue(),
                json.path("retries").longValue(),
                json.path("selectedInBatch").intValue(),
                Duration.ofMillis(json.path("workedMillis").longValue()),
                text(json, "table"),
                text(json, "note"));
    }

    private static JsonNode read(String written) {
        try {
            return MAPPER.readTree(written);
        } catch (JsonProcessingException broken) {
            throw new IllegalStateException("a job is kept in no form that is known", broken);
        }
    }

    private static @Nullable String text(JsonNode json, String name) {
        JsonNode value = json.path(name);
        return value.isTextual() ? value.textValue() : null;
    }

    private static Map<String, String> texts(JsonNode json) {
        Map<String, String> texts = new TreeMap<>();
        json.properties()
                .forEach(text -> texts.put(text.getKey(), text.getValue().asText()));
        return texts;
    }

    private static List<String> list(JsonNode json) {
        List<String> list = new ArrayList<>();
        json.forEach(text -> list.add(text.asText()));
        return list;
    }
}
