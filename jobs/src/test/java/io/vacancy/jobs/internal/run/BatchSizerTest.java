// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.jobs.pace.BatchSize;
import java.time.Duration;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class BatchSizerTest {

    /** The goal is half a second; times are by a third longer or shorter by chance. */
    @ParameterizedTest
    @CsvSource({
        // milliseconds of each batch, microseconds of each row, from so many rows, to so many
        "0, 1000, 300, 800",
        "20, 100, 2500, 8000",
        "5, 500000, 1, 2",
        "300, 1000, 150, 800",
        "2000, 1000, 500, 6000",
        "2000, 100000, 5, 60",
    })
    void batchesTakeAsLongAsTheyShouldOrAboutTwiceWhatEachTakesAnyway(
            int eachMillis, int rowMicros, int least, int most) {
        for (int seed = 1; seed <= 20; seed++) {
            Random random = new Random(seed);
            BatchSizer sizer = new BatchSizer(0);
            double rows = 0;
            for (int batch = 1; batch <= 60; batch++) {
                int size = sizer.next(BatchSize.USUAL);
                double micros =
                        (eachMillis * 1_000.0 + (double) rowMicros * size) * (0.67 + random.nextDouble() * 0.66);
                sizer.took(size, Duration.ofNanos((long) (micros * 1_000)), BatchSize.USUAL);
                rows += batch > 20 ? size : 0;
            }
            assertThat(rows / 40).isBetween((double) least, (double) most);
        }
    }
}
