// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.engines.Engine;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** {@code one-record | opening | keys-in-memory | bulk | heap | images | archived | trail | killed [ENGINE …]}: runs a measurement on some engines, or on all. */
public final class Main {

    private Main() {}

    private interface Measurement {
        void on(Engine engine) throws Exception;
    }

    public static void main(String[] words) throws Exception {
        if (words.length == 1 && words[0].equals("chart")) {
            Bulk.chart();
            return;
        }
        Measurement measurement =
                switch (words.length == 0 ? "" : words[0]) {
                    case "one-record" -> OneRecord::run;
                    case "opening" -> OpeningTime::run;
                    case "keys-in-memory" -> KeysInMemory::run;
                    case "bulk" -> Bulk::run;
                    case "heap" -> Heap::run;
                    case "images" -> KeepingImages::run;
                    case "archived" -> Archived::run;
                    case "trail" -> TrailRate::run;
                    case "killed" -> Killed::run;
                    default -> {
                        System.err.println(
                                "One of one-record, opening, keys-in-memory, bulk, heap, images, archived, trail, killed, and engines if not all are meant.");
                        System.exit(2);
                        throw new IllegalStateException();
                    }
                };
        List<Engine> engines = new ArrayList<>();
        Arrays.stream(words).skip(1).forEach(word -> engines.add(Engine.valueOf(word.toUpperCase(Locale.ROOT))));
        for (Engine engine : engines.isEmpty() ? Engine.all() : engines) {
            measurement.on(engine);
        }
        if (words[0].equals("bulk")) {
            Bulk.chart();
        }
        // The servers end with the process; nothing else keeps it alive on purpose.
        System.exit(0);
    }
}
