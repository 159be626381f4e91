// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** The ratios that were written down, and those of this run. */
final class Ratios {

    /** How much worse a ratio may be than the written one before a check fails. */
    private static final double WORSE = 4.0 / 3;

    private static final String HEAD = "work|way|rival|ratio";

    private final Map<String, Double> written = new LinkedHashMap<>();
    private final Map<String, Double> found = new LinkedHashMap<>();

    private Ratios() {}

    /** With those that are kept beside the measurements. */
    static Ratios written() {
        Ratios ratios = new Ratios();
        try (BufferedReader lines = new BufferedReader(new InputStreamReader(
                Objects.requireNonNull(Ratios.class.getResourceAsStream("ratios.csv")), StandardCharsets.UTF_8))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                int last = line.lastIndexOf('|');
                if (!line.equals(HEAD) && last > 0) {
                    ratios.written.put(line.substring(0, last), Double.valueOf(line.substring(last + 1)));
                }
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        return ratios;
    }

    void found(String work, String way, String rival, double ratio) {
        found.put(work + "|" + way + "|" + rival, ratio);
    }

    /** What is worse than what was written down by more than a third, a line each. */
    List<String> worse() {
        List<String> worse = new ArrayList<>();
        found.forEach((what, ratio) -> {
            Double before = written.get(what);
            if (before != null && ratio > before * WORSE) {
                worse.add(String.format(Locale.ROOT, "%s: %.2f, and %.2f was written down", what, ratio, before));
            }
        });
        return worse;
    }

    /** How many of this run's ratios were written down before. */
    long compared() {
        return found.keySet().stream().filter(written::containsKey).count();
    }

    /** Writes the old ones with this run's in their place. */
    void write(Path file) throws IOException {
        Map<String, Double> all = new LinkedHashMap<>(written);
        all.putAll(found);
        List<String> lines = new ArrayList<>(List.of(HEAD));
        all.forEach((what, ratio) -> lines.add(String.format(Locale.ROOT, "%s|%.2f", what, ratio)));
        Files.write(file, lines);
    }

    /** A ratio of this run or, where it has none, the written one; null where there is neither. */
    @Nullable
    Double ratio(String work, String way, String rival) {
        String what = work + "|" + way + "|" + rival;
        return found.getOrDefault(what, written.get(what));
    }
}
