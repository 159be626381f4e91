// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.judge;

import io.vacancy.advice.Advisor;
import io.vacancy.preview.Action;
import io.vacancy.preview.Estimate;
import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionTime;
import io.vacancy.spi.Store;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Says roughly how long something takes, by how long it took before. */
public record Estimator(Store store, ResolvedRules rules) {

    /** Of fewer rows nobody wonders. */
    private static final long FEWEST = 1_000;

    private static final int LOOKED_AT = 50;
    private static final int NEAREST = 10;
    private static final Duration SHORT = Duration.ofSeconds(1);

    /** Null where it is short, where nothing is to be done, or where nothing alike was done before. */
    public @Nullable Estimate of(Preview preview) {
        Impact impact = preview.impact();
        long rows = impact.totals().values().stream().mapToLong(Long::longValue).sum();
        if (preview.state() != Preview.State.READY
                || rows < FEWEST
                || !store.archive().ready()) {
            return null;
        }
        List<ExecutionTime> nearest =
                store.archive().executionTimes(preview.table(), preview.operation(), LOOKED_AT).stream()
                        .sorted(Comparator.comparingDouble(time -> Math.abs(Math.log((double) time.rows() / rows))))
                        .limit(NEAREST)
                        .toList();
        if (nearest.isEmpty()) {
            return null;
        }
        Duration time = Duration.ofMillis((long) millis(nearest, rows));
        return time.compareTo(SHORT) < 0 ? null : new Estimate(time, nearest.size(), rows, missingIndexes(impact));
    }

    /**
     * A line through what was done before, as Theil (1950) and Sen (1968) fit it: the median of all slopes, and the median of
     * what is left. One that was held up does not bend it. Where all were of about one size, by the row.
     */
    private static double millis(List<ExecutionTime> executionTimes, long rows) {
        List<Double> slopes = new ArrayList<>();
        for (ExecutionTime one : executionTimes) {
            for (ExecutionTime other : executionTimes) {
                if (other.rows() >= 2 * one.rows()) {
                    slopes.add(
                            (double) (other.took().toMillis() - one.took().toMillis()) / (other.rows() - one.rows()));
                }
            }
        }
        if (slopes.isEmpty()) {
            return rows
                    * median(executionTimes.stream()
                            .map(time -> (double) time.took().toMillis() / time.rows())
                            .toList());
        }
        double slope = Math.max(0, median(slopes));
        return slope * rows
                + median(executionTimes.stream()
                        .map(time -> time.took().toMillis() - slope * time.rows())
                        .toList());
    }

    private static double median(List<Double> values) {
        List<Double> sorted = values.stream().sorted().toList();
        int half = sorted.size() / 2;
        return sorted.size() % 2 == 1 ? sorted.get(half) : (sorted.get(half - 1) + sorted.get(half)) / 2;
    }

    private List<String> missingIndexes(Impact impact) {
        Set<TableName> removed = impact.effects().stream()
                .filter(effect -> effect.action() == Action.DELETE && effect.rows() > 0)
                .map(effect -> effect.table())
                .collect(Collectors.toSet());
        return new Advisor(rules, store)
                .indexes().stream()
                        .filter(advice -> advice.relation() != null
                                && removed.contains(rules.schema()
                                        .relation(advice.relation())
                                        .parent()))
                        .map(advice -> advice.message())
                        .toList();
    }
}
