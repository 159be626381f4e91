// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Locale;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class CountTextTest {

    @Test
    void groupsDigitsAsTheStandardFormatDoes() {
        Random random = new Random(7);
        LongStream numbers = LongStream.concat(
                LongStream.of(
                        0, 1, 12, 123, 999, 1_000, 999_999, 1_000_000, -1, -999, -1_000, -100_000, Long.MAX_VALUE),
                random.longs(500).map(number -> number >> random.nextInt(63)));

        assertThat(numbers.boxed()).contains(0L).allSatisfy(number -> assertThat(CountText.grouped(number))
                .isEqualTo(String.format(Locale.ROOT, "%,d", number)));
    }
}
