// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import io.vacancy.spi.RequestDigest;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Requests that are kept as documents and read again. */
class KeptRequestTest {

    static Stream<Request> requests() {
        return Stream.of(
                Request.erase("boat").where(column("id").atMost(3)),
                Request.erase("boat").where(column("id").atMost((short) 3)),
                Request.erase("boat").where(column("id").in(1, 2L, "3")),
                Request.erase("boat").where(column("rent").greaterThan(new BigDecimal("12.50"))),
                Request.softDelete("boat").where(column("left_on").before(LocalDate.of(2026, 1, 1))),
                Request.delete("boat").keys(List.of(1, "HV-2", 3L)).because("sold"));
    }

    @ParameterizedTest
    @MethodSource("requests")
    void meanTheSame(Request request) {
        Request read = JsonReader.request(new JsonWriter().write(request), name -> {
            throw new MisuseException("no deletion " + name);
        });

        assertThat(RequestDigest.of(read)).isEqualTo(RequestDigest.of(request));
    }
}
