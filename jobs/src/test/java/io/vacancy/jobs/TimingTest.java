// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** When jobs work, on the days on which clocks are changed too. */
class TimingTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

    private static Instant next(String every, String after) {
        return Recurrence.read(every, OSLO).after(Instant.parse(after)).orElseThrow();
    }

    @ParameterizedTest
    @CsvSource({
        // Clocks go from 02:00 to 03:00 on 29 March 2026, and from 03:00 back to 02:00 on 25 October.
        "03:00, 2026-03-27T12:00:00Z, 2026-03-28T02:00:00Z",
        "03:00, 2026-03-28T02:00:00Z, 2026-03-29T01:00:00Z",
        "02:30, 2026-03-28T12:00:00Z, 2026-03-29T01:30:00Z",
        "02:30, 2026-03-29T01:30:00Z, 2026-03-30T00:30:00Z",
        "02:30, 2026-10-24T12:00:00Z, 2026-10-25T00:30:00Z",
        "02:30, 2026-10-25T00:30:00Z, 2026-10-26T01:30:00Z",
        "3:00 UTC, 2026-10-25T00:30:00Z, 2026-10-25T03:00:00Z",
        "0 3 * * *, 2026-03-28T12:00:00Z, 2026-03-29T01:00:00Z",
        "15 4 1 * * America/New_York, 2026-03-28T12:00:00Z, 2026-04-01T08:15:00Z",
        "PT6H, 2026-03-28T22:00:00Z, 2026-03-29T04:00:00Z",
    })
    void recurs(String every, String after, String next) {
        assertThat(next(every, after)).isEqualTo(Instant.parse(next));
    }

    @ParameterizedTest
    @ValueSource(strings = {"03:00 Europe/Oslo", "PT6H", "30 2 * * 1-5 Europe/Oslo"})
    void isWrittenAsItIsRead(String every) {
        Recurrence read = Recurrence.read(every, ZoneOffset.UTC);
        assertThat(read.written()).isEqualTo(every);
        assertThat(Recurrence.read(read.written(), ZoneOffset.UTC)).isEqualTo(read);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "25:00", "every day", "PT0S", "PT-1H", "* * * *", "61 * * * *", "03:00 Mars/Olympus"})
    void whatIsNoTimeIsRefused(String every) {
        assertThatThrownBy(() -> Recurrence.read(every, OSLO)).isInstanceOf(MisuseException.class);
    }

    @Test
    void whatNeverComesAgainHasNoNext() {
        assertThat(Recurrence.read("0 0 30 2 *", OSLO).after(Instant.parse("2026-01-01T00:00:00Z")))
                .isEqualTo(Optional.empty());
    }

    @ParameterizedTest
    @CsvSource({
        "22:00-05:30, 2026-11-26T20:59:00Z, 2026-11-26T21:00:00Z",
        "22:00-05:30, 2026-11-26T21:00:00Z, 2026-11-26T21:00:00Z",
        "22:00-05:30, 2026-11-27T04:29:59Z, 2026-11-27T04:29:59Z",
        "22:00-05:30, 2026-11-27T04:30:00Z, 2026-11-27T21:00:00Z",
        "09:00-17:00, 2026-11-26T16:00:00Z, 2026-11-27T08:00:00Z",
        "'sat,sun 10:00-12:00', 2026-11-26T12:00:00Z, 2026-11-28T09:00:00Z",
        "'sun 22:00-02:00', 2026-11-30T00:30:00Z, 2026-11-30T00:30:00Z",
        "'sun 22:00-02:00', 2026-11-30T01:30:00Z, 2026-12-06T21:00:00Z",
        // The night in which clocks go forward has an hour less.
        "22:00-03:00, 2026-03-29T00:59:00Z, 2026-03-29T00:59:00Z",
        "22:00-03:00, 2026-03-29T01:00:00Z, 2026-03-29T20:00:00Z",
        "22:00-03:00, 2026-10-25T01:30:00Z, 2026-10-25T01:30:00Z",
    })
    void opens(String window, String now, String opens) {
        Window read = Window.read(window, OSLO);
        assertThat(read.opens(Instant.parse(now))).isEqualTo(Instant.parse(opens));
        assertThat(Window.read(read.written(), ZoneOffset.UTC)).isEqualTo(read);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", "22:00", "22:00-25:00", "someday 10:00-12:00", "10:00-12:00 Mars/Olympus", ",10:00-12:00"})
    void whatIsNoWindowIsRefused(String window) {
        assertThatThrownBy(() -> Window.read(window, OSLO)).isInstanceOf(MisuseException.class);
    }

    @Test
    void whatIsNoPaceIsRefused() {
        assertThatThrownBy(() -> Throttling.rowsPerSecond(0)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Throttling.rowsPerSecond(Double.NaN)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Throttling.share(1.1)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Throttling.share(Double.NaN)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> BatchSize.USUAL.atMost(0)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> BatchSize.USUAL.selecting(0)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> BatchSize.USUAL.taking(Duration.ZERO)).isInstanceOf(MisuseException.class);
    }
}
