// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.jobs.order.JobSettings;
import io.vacancy.preview.Action;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Jobs as JSON documents, of version 1. Points in time and durations are ISO 8601. */
public final class JobJson {

    private static final ObjectMapper MAPPER = new ObjectMapper();

    private JobJson() {}

    /** A job as it stands, on several lines. */
    public static String write(Job job) {
        return of(job).toPrettyString();
    }

    /** The same on one line. */
    public static String line(Job job) {
        return of(job).toString();
    }

    /** Several, in one document on several lines. */
    public static String write(List<Job> jobs) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("version", 1);
        json.withArray("jobs");
        jobs.forEach(job -> json.withArray("jobs").add(of(job)));
        return json.toPrettyString();
    }

    private static ObjectNode of(Job job) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("version", 1);
        json.put("job", job.name());
        json.put("title", job.title());
        json.put("table", job.table());
        json.put("state", job.state().word());
        json.put("over", job.state().over());
        json.put("by", job.by());
        json.put("run", job.run());
        put(json, "submitted-at", job.submittedAt());
        put(json, "due-at", job.dueAt());
        put(json, "started-at", job.startedAt());
        put(json, "ended-at", job.endedAt());
        put(json, "receipt", job.receipt());
        json.put("reason", job.reason());
        json.set("progress", of(job.progress(), job.state().over()));
        json.set("settings", of(job.settings()));
        return json;
    }

    private static ObjectNode of(JobProgress progress, boolean over) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("selected", progress.selected());
        json.put("expected", progress.expected());
        json.put("handled", progress.handled());
        json.put("rows", progress.rows());
        ObjectNode totals = json.putObject("totals");
        for (Map.Entry<Action, Long> total : new TreeMap<>(progress.totals()).entrySet()) {
            totals.put(total.getKey().word(), total.getValue());
        }
        json.set("tables", MAPPER.valueToTree(new TreeMap<>(progress.tables())));
        json.put("changed", progress.changed());
        json.put("missing", progress.missing());
        json.put("skipped", progress.skipped());
        json.put("batches", progress.batches());
        json.put("retries", progress.retries());
        json.put("rows-per-second", Math.round(progress.rate()));
        put(json, "worked", progress.worked());
        put(json, "remaining", over ? null : progress.remaining());
        json.put("working-on", over ? null : progress.table());
        json.put("note", progress.note());
        return json;
    }

    private static ObjectNode of(JobSettings settings) {
        ObjectNode json = MAPPER.createObjectNode();
        json.put("on-change", settings.onChange().word());
        put(json, "batch-time", settings.batches().timeGoal());
        json.put("batch-rows", settings.batches().mostRows());
        json.put("batch-bytes", settings.batches().mostBytes());
        json.put("rows-per-second", settings.pace().rowsPerSecond());
        json.put("share", settings.pace().share());
        put(json, "window", settings.window() == null ? null : settings.window().written());
        put(json, "every", settings.every() == null ? null : settings.every().written());
        json.put("lanes", settings.lanes());
        return json;
    }

    private static void put(ObjectNode json, String name, @Nullable Object value) {
        json.put(name, value == null ? null : value.toString());
    }
}
