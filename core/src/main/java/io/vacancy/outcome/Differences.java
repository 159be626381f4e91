// SPDX-License-Identifier: Apache-2.0
package io.vacancy.outcome;

import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.schema.Row;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Tells in sentences how a preview differs from an earlier one of the same request. */
final class Differences {

    private Differences() {}

    static List<String> between(@Nullable Preview before, Preview now) {
        if (before == null) {
            return List.of("It is not what the fingerprint stands for.");
        }
        List<String> sentences = new ArrayList<>();
        Map<String, Long> then = counts(before);
        Map<String, Long> today = counts(now);
        then.forEach((line, rows) -> {
            long left = today.getOrDefault(line, 0L);
            if (left != rows) {
                sentences.add(line + ": " + CountText.rows(rows) + " then, " + left + " now.");
            }
        });
        today.forEach((line, rows) -> {
            if (!then.containsKey(line)) {
                sentences.add(line + ": none then, " + rows + " now.");
            }
        });
        contents(before, now, sentences);
        if (sentences.isEmpty()) {
            sentences.add("As many rows of each table as before, but not the same ones.");
        }
        return sentences;
    }

    private static Map<String, Long> counts(Preview preview) {
        Map<String, Long> counts = new LinkedHashMap<>();
        for (Effect effect : preview.effects()) {
            String through = effect.relation() == null ? "" : " through " + effect.relation();
            counts.put(effect.action().word() + " " + effect.table() + through, effect.rows());
        }
        return counts;
    }

    private static void contents(Preview before, Preview now, List<String> sentences) {
        if (before.records().size() != 1 || now.records().size() != 1) {
            return;
        }
        Row then = before.records().get(0);
        Row today = now.records().get(0);
        today.values().forEach((column, value) -> {
            Object was = then.values().get(column);
            if (!Objects.equals(was, value)) {
                sentences.add(now.table() + "." + column + " was " + written(was) + ", is " + written(value) + ".");
            }
        });
    }

    private static String written(@Nullable Object value) {
        return value == null ? "NULL" : value.toString();
    }
}
