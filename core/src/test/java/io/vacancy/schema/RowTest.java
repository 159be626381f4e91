// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.LinkedHashMap;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class RowTest {

    private final Map<String, Object> values = new LinkedHashMap<>();
    private Row row;

    @BeforeEach
    void row() {
        values.put("id", 17L);
        values.put("length_m", new BigDecimal("11.35"));
        values.put("name", "Osprey");
        values.put("left_on", null);
        row = new Row(TableName.of("boat"), values);
    }

    @Test
    void valuesAreReadAsWhateverHoldsThemWhole() {
        assertThat(row.getLong("id")).isEqualTo(17);
        assertThat(row.get("id", Integer.class)).isEqualTo(17);
        assertThat(row.get("id", BigInteger.class)).isEqualTo(BigInteger.valueOf(17));
        assertThat(row.get("id", BigDecimal.class)).isEqualByComparingTo("17");
        assertThat(row.getString("id")).isEqualTo("17");
        assertThat(row.get("length_m", Double.class)).isEqualTo(11.35);
        assertThat(row.get("NAME")).isEqualTo("Osprey");
        assertThat(row.get("left_on")).isNull();
        assertThat(row.text("left_on")).isEmpty();
        assertThat(row.getString("left_on")).isNull();
    }

    @Test
    void whatWouldLoseSomethingIsRefused() {
        assertThatThrownBy(() -> row.getLong("length_m"))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Column length_m has a BigDecimal, which cannot be read as Long.");
        assertThatThrownBy(() -> row.getLong("name")).hasMessageContaining("cannot be read as Long");
        assertThatThrownBy(() -> row.getLong("left_on")).hasMessageContaining("is NULL in this row");
        assertThatThrownBy(() -> row.get("nam")).hasMessageContaining("did you mean name?");
    }

    @Test
    void itStaysAsItWas() {
        values.put("name", "Tern");
        assertThat(row.text("name")).isEqualTo("Osprey");
        assertThatThrownBy(() -> row.values().put("name", "Tern")).isInstanceOf(UnsupportedOperationException.class);
    }
}
