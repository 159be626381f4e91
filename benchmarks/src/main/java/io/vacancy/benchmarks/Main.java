// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.engines.Engine;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * {@code one-record | one-by-one | opening | keys | keys-in-memory | bulk | heap | images | archived | trail | killed
 * [ENGINE …] [--check | --write FILE]}: runs a measurement on some engines, or on all; {@code chart} draws what is known.
 */
public final class Main {

    private Main() {}

    private interface Measurement {
        void on(Engine engine, Ratios ratios) throws Exception;
    }

    private static final Map<String, Measurement> MEASUREMENTS = measurements();

    private static Map<String, Measurement> measurements() {
        Map<String, Measurement> all = new LinkedHashMap<>();
        all.put("one-record", OneRecord::run);
        all.put("one-by-one", OneByOne::run);
        all.put("bulk", Bulk::run);
        all.put("archived", Archived::run);
        all.put("jobs", InBatches::run);
        all.put("keys", ListedKeys::run);
        all.put("related", RelatedRowsLookedAt::run);
        all.put("blank", RowsBlanked::run);
        all.put("drop", TablesDropped::run);
        all.put("encrypt", RowsEncrypted::run);
        all.put("estimate", (engine, ratios) -> Estimated.run(engine));
        all.put("opening", OpeningTime::run);
        all.put("keys-in-memory", KeysInMemory::run);
        all.put("images", KeepingImages::run);
        all.put("heap", (engine, ratios) -> Heap.run(engine));
        all.put("trail", (engine, ratios) -> TrailRate.run(engine));
        all.put("web", (engine, ratios) -> WebLoad.run(engine));
        all.put("killed", (engine, ratios) -> Killed.run(engine));
        return all;
    }

    public static void main(String[] words) throws Exception {
        Ratios ratios = Ratios.written();
        List<String> given = new ArrayList<>(List.of(words));
        boolean check = given.remove("--check");
        int write = given.indexOf("--write");
        Path file = write < 0 ? null : Path.of(given.remove(write + 1));
        given.remove("--write");
        String which = given.isEmpty() ? "" : given.remove(0);
        if (which.equals("chart")) {
            Bulk.chart(ratios);
            return;
        }
        Measurement measurement = MEASUREMENTS.get(which);
        if (measurement == null) {
            System.err.println("One of " + String.join(", ", MEASUREMENTS.keySet())
                    + " or chart, and engines if not all are meant; --check compares with what was written down.");
            System.exit(2);
            return;
        }
        List<Engine> engines = given.stream()
                .map(word -> Engine.valueOf(word.toUpperCase(Locale.ROOT)))
                .toList();
        for (Engine engine : engines.isEmpty() ? Engine.all() : engines) {
            measurement.on(engine, ratios);
            if (file != null) {
                ratios.write(file);
            }
        }
        List<String> worse = check ? ratios.worse() : List.of();
        if (check) {
            System.out.println(
                    ratios.compared() + " ratios were compared, " + worse.size() + " are worse by a third or more.");
        }
        worse.forEach(System.out::println);
        // The servers end with the process; nothing else keeps it alive on purpose.
        System.exit(worse.isEmpty() ? 0 : 1);
    }
}
