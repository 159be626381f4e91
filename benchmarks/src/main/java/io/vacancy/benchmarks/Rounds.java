// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** Ways of doing the same, timed in turn, so that a machine whose speed drifts is unjust to none of them. */
final class Rounds {

    /** One way. */
    interface Way {
        void run() throws Exception;
    }

    private record Named(String name, Way way, List<Long> nanoseconds, List<Long> asked) {}

    private record Comparison(String way, String rival) {}

    private final List<Named> ways = new ArrayList<>();
    private final List<Comparison> comparisons = new ArrayList<>();
    private final String work;
    private final RoundTrips trips;

    private Way afterEach = () -> {};

    /**
     * @param work what is done, and on which engine
     * @param trips what the ways' connections are counted by
     */
    Rounds(String work, RoundTrips trips) {
        this.work = work;
        this.trips = trips;
    }

    /** What is done after each way, outside its time. */
    Rounds afterEach(Way what) {
        afterEach = what;
        return this;
    }

    Rounds way(String name, Way way) {
        ways.add(new Named(name, way, new ArrayList<>(), new ArrayList<>()));
        return this;
    }

    /** The same, compared with another one. */
    Rounds way(String name, String rival, Way way) {
        return way(name, way).compare(name, rival);
    }

    /** Has a way's time be told as a ratio to another one's. */
    Rounds compare(String way, String rival) {
        comparisons.add(new Comparison(way, rival));
        return this;
    }

    /** Runs all ways in turn, first uncounted, then counted. */
    Rounds run(int uncounted, int counted) throws Exception {
        for (int round = 0; round < uncounted + counted; round++) {
            for (Named named : ways) {
                trips.taken();
                long start = System.nanoTime();
                named.way().run();
                long time = System.nanoTime() - start;
                long asked = trips.taken();
                afterEach.run();
                if (round >= uncounted) {
                    named.nanoseconds().add(time);
                    named.asked().add(asked);
                }
            }
        }
        return this;
    }

    /** A line a way, and a line a comparison: the median ratio of the pairs of a round, and its spread. */
    Rounds report(Ratios ratios) {
        System.out.println(work);
        for (Named named : ways) {
            System.out.printf(
                    Locale.ROOT,
                    "  %-42s median %10.3f ms, %d statements%n",
                    named.name(),
                    median(named.name()),
                    named.asked().get(named.asked().size() / 2));
        }
        for (Comparison comparison : comparisons) {
            double[] pairs = pairs(named(comparison.rival()), named(comparison.way()));
            System.out.printf(
                    Locale.ROOT,
                    "  %5.2f times (the middle half of %d rounds from %.2f to %.2f): %s, against %s%n",
                    quantile(pairs, 0.5),
                    pairs.length,
                    quantile(pairs, 0.25),
                    quantile(pairs, 0.75),
                    comparison.way(),
                    comparison.rival());
            ratios.found(work, comparison.way(), comparison.rival(), quantile(pairs, 0.5));
        }
        return this;
    }

    private static double[] pairs(Named first, Named other) {
        double[] ratios = new double[other.nanoseconds().size()];
        for (int i = 0; i < ratios.length; i++) {
            ratios[i] =
                    (double) other.nanoseconds().get(i) / first.nanoseconds().get(i);
        }
        return ratios;
    }

    /** The median of a way, in milliseconds. */
    double median(String name) {
        return quantile(
                named(name).nanoseconds().stream()
                        .mapToDouble(time -> time / 1e6)
                        .toArray(),
                0.5);
    }

    private Named named(String name) {
        return ways.stream().filter(way -> way.name().equals(name)).findFirst().orElseThrow();
    }

    private static double quantile(double[] values, double which) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted.length == 0 ? Double.NaN : sorted[(int) Math.min(sorted.length - 1, sorted.length * which)];
    }
}
