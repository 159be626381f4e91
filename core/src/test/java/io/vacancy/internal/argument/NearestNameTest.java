// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.argument;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NearestNameTest {

    @ParameterizedTest
    @CsvSource({"boat, boat, 0", "baot, boat, 1", "boats, boat, 1", "arivd_on, arrived_on, 2", "'', boat, 4"})
    void countsMistypings(String typed, String meant, int distance) {
        assertThat(NearestName.distance(typed, meant)).isEqualTo(distance);
    }
}
