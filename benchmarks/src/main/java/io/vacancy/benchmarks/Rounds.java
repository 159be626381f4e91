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

    private record Named(String name, Way way, List<Long> nanoseconds) {}

    private final List<Named> ways = new ArrayList<>();

    private Way afterEach = () -> {};

    /** What is done after each way, outside its time. */
    Rounds afterEach(Way what) {
        afterEach = what;
        return this;
    }

    Rounds way(String name, Way way) {
        ways.add(new Named(name, way, new ArrayList<>()));
        return this;
    }

    /** Runs all ways in turn, first uncounted, then counted. */
    Rounds run(int uncounted, int counted) throws Exception {
        for (int round = 0; round < uncounted + counted; round++) {
            for (Named named : ways) {
                long start = System.nanoTime();
                named.way().run();
                long time = System.nanoTime() - start;
                afterEach.run();
                if (round >= uncounted) {
                    named.nanoseconds().add(time);
                }
            }
        }
        return this;
    }

    /** A line a way: median, and its ratio to the first way's, by the medians of pairs of the same round. */
    void print(String title) {
        System.out.println(title);
        Named first = ways.get(0);
        for (Named named : ways) {
            double[] ratios = ratios(first, named);
            double[] times =
                    named.nanoseconds().stream().mapToDouble(time -> time / 1e6).toArray();
            System.out.printf(
                    Locale.ROOT,
                    "  %-44s median %9.3f ms   ratio %5.2f%n",
                    named.name(),
                    median(times),
                    median(ratios));
        }
    }

    private static double[] ratios(Named first, Named other) {
        double[] ratios = new double[other.nanoseconds().size()];
        for (int i = 0; i < ratios.length; i++) {
            ratios[i] =
                    (double) other.nanoseconds().get(i) / first.nanoseconds().get(i);
        }
        return ratios;
    }

    /** The median of a way's ratios to the first way's. */
    double ratio(String name) {
        return median(ratios(ways.get(0), named(name)));
    }

    /** The median of a way, in milliseconds. */
    double median(String name) {
        return median(named(name).nanoseconds().stream()
                .mapToDouble(time -> time / 1e6)
                .toArray());
    }

    private Named named(String name) {
        return ways.stream().filter(way -> way.name().equals(name)).findFirst().orElseThrow();
    }

    private static double median(double[] values) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted.length == 0 ? Double.NaN : sorted[sorted.length / 2];
    }
}
