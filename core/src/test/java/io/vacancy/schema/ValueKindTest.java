// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ValueKindTest {

    @Test
    void readsJavaValuesAndTextAlike() {
        assertThat(ValueKind.INTEGER.read("17")).isEqualTo(17L);
        assertThat(ValueKind.INTEGER.read(17)).isEqualTo(17L);
        assertThat(ValueKind.INTEGER.read("9223372036854775808")).isEqualTo(new BigInteger("9223372036854775808"));
        assertThat(ValueKind.DECIMAL.read("12.50")).isEqualTo(new BigDecimal("12.50"));
        assertThat(ValueKind.DATE.read("2026-05-01")).isEqualTo(LocalDate.of(2026, 5, 1));
        assertThat(ValueKind.TIMESTAMP.read("2026-05-01 14:30:00")).isEqualTo(LocalDateTime.of(2026, 5, 1, 14, 30));
        assertThat(ValueKind.INSTANT.read(Instant.EPOCH)).hasToString("1970-01-01T00:00Z");
        assertThat(ValueKind.UUID.read("123e4567-e89b-12d3-a456-426614174000")).isInstanceOf(UUID.class);
        assertThat(ValueKind.BINARY.read(new byte[] {1, 2})).isEqualTo(ValueKind.BINARY.read("AQI="));
        assertThat(ValueKind.BOOLEAN.read("TRUE")).isEqualTo(true);
    }

    @ParameterizedTest
    @CsvSource({
        "INTEGER, seventeen",
        "INTEGER, 17.0",
        "INTEGER, 0x11",
        "INTEGER, '1;2'",
        "DECIMAL, 1/2",
        "DATE, 2026-02-30",
        "DATE, 01.05.2026",
        "TIMESTAMP, noon",
        "INSTANT, 2026-05-01T14:30:00",
        "UUID, 1-2-3-4-5",
        "BOOLEAN, yes",
        "BINARY, '*'"
    })
    void readsNothingElse(ValueKind kind, String text) {
        assertThat(kind.read(text)).isNull();
    }

    @Test
    void saysWhatTheColumnWants() {
        Column id = new Column("id", new ColumnType(ValueKind.INTEGER, "SMALLINT", 16, 0), false, false, false, null);
        TableName boat = TableName.of("boat");

        assertThat(id.read("-32768", boat)).isEqualTo(-32768L);
        assertThatThrownBy(() -> id.read("32768", boat))
                .isInstanceOf(MisuseException.class)
                .hasMessage("\"32768\" cannot be a value of boat.id: it is beyond the range of SMALLINT.");
        assertThatThrownBy(() -> id.read("x\u0000y", boat))
                .hasMessage(
                        "\"x\\u0000y\" cannot be a value of boat.id, which holds SMALLINT: a whole number, such as 17.");
        assertThatThrownBy(() -> id.read("", boat)).hasMessage("The value for boat.id is empty.");
    }
}
