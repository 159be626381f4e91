// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Binary;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class KeyListTest {

    @Test
    void valuesOfEveryClassComeBackAsTheyWent() {
        List<Object> values = List.of(
                17L,
                "17",
                "\uD83D\uDEA2 'quoted'",
                new BigInteger("99999999999999999999"),
                new BigDecimal("12.50"),
                LocalDate.of(2026, 5, 1),
                LocalDateTime.of(2026, 5, 1, 14, 30),
                OffsetDateTime.parse("2026-05-01T14:30:00+02:00"),
                new UUID(1, 2),
                Binary.of(new byte[] {0, 1, -1}),
                true,
                0.25);

        List<Key> keys = new ArrayList<>();
        KeyList.of(values).forEach(keys::add);

        assertThat(keys).isEqualTo(values.stream().map(Key::of).toList());
    }

    @Test
    void compositeKeysKeepTheirNames() {
        Key key = Key.of("berth_no", 3L, "pier_id", 2L);

        assertThat(KeyList.of(List.of(key))).containsExactly(key);
    }

    @Test
    void manyKeysKeepTheirOrderAndCanBeReadAgain() {
        KeyList keys = KeyList.of(LongStream.range(0, 100_000).boxed());

        for (int time = 0; time < 2; time++) {
            long expected = 0;
            for (Key key : keys) {
                assertThat(key.parts()).containsValue(expected++);
            }
            assertThat(expected).isEqualTo(keys.size()).isEqualTo(100_000);
        }
        assertThat(keys).isEqualTo(KeyList.of(LongStream.range(0, 100_000).boxed()));
        assertThat(keys).isNotEqualTo(KeyList.of(LongStream.range(1, 100_001).boxed()));
    }

    @Test
    void anEmptyKeyIsRefusedAndTheStreamIsClosed() {
        boolean[] closed = {false};

        assertThatThrownBy(() -> KeyList.of(Stream.of("1", "").onClose(() -> closed[0] = true)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("The key is empty");
        assertThat(closed[0]).isTrue();
        assertThatThrownBy(() -> Request.delete("boat").keys(Stream.of())).hasMessageContaining("nothing is selected");
    }
}
