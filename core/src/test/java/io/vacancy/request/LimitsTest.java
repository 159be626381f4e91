// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.ValueKind;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import org.junit.jupiter.api.Test;

class LimitsTest {

    @Test
    void ofTwoLimitsTheStricterOneHolds() {
        Limits book = Limits.NONE.atMost(500).atMostPercent(10);
        Limits request = Limits.NONE.expect(3).atMost(1_000).atMostInAll(50).atMostPercent(5);

        assertThat(request.stricter(book))
                .isEqualTo(Limits.NONE.expect(3).atMost(500).atMostInAll(50).atMostPercent(5));
        assertThat(Limits.NONE.stricter(book)).isEqualTo(book);
    }

    @Test
    void aPartOfATableIsRoundedDown() {
        assertThat(Limits.rowsOf(10, 15)).isEqualTo(1);
        assertThat(Limits.rowsOf(100, 15)).isEqualTo(15);
        assertThat(Limits.rowsOf(0.1, 999)).isZero();
    }

    @Test
    void whatIsNoLimitIsRefused() {
        assertThatThrownBy(() -> Limits.NONE.atMost(-1)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Limits.NONE.atMostPercent(0)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Limits.NONE.atMostPercent(100.1)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Request.delete("fee").everyRow().limit(0)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Order.read("left_on sideways")).isInstanceOf(MisuseException.class);
    }

    @Test
    void aMomentIsWorkedOutForTheColumnItIsComparedWith() {
        ZonedDateTime now = ZonedDateTime.parse("2026-03-31T10:15:30+02:00");

        assertThat(RelativeTime.today().minus(1, ChronoUnit.MONTHS).at(now, ValueKind.DATE))
                .isEqualTo(LocalDate.of(2026, 2, 28));
        assertThat(RelativeTime.today().at(now, ValueKind.TIMESTAMP)).isEqualTo(LocalDateTime.of(2026, 3, 31, 0, 0));
        assertThat(RelativeTime.now().plus(2, ChronoUnit.HOURS).at(now, ValueKind.INSTANT))
                .isEqualTo(now.plusHours(2).toOffsetDateTime());
        assertThat(RelativeTime.today().minus(30, ChronoUnit.DAYS)).hasToString("CURRENT_DATE - INTERVAL '30' DAY");
        assertThatThrownBy(() -> RelativeTime.today().minus(1, ChronoUnit.HOURS))
                .isInstanceOf(MisuseException.class);
    }
}
