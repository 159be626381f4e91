// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.SchemaBuilder;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Schema;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class KeyTest {

    private final Schema schema = new SchemaBuilder()
            .table("boat", "id", "name")
            .table("berth", List.of("pier_id", "berth_no"), "pier_id", "berth_no")
            .build();

    @Test
    void isReadAsTheTypeOfTheKeyColumn() {
        assertThat(Key.of("17").valuesFor(schema.table("boat"))).isEqualTo(List.of(17L));
        assertThat(Key.of(17).valuesFor(schema.table("boat"))).isEqualTo(List.of(17L));
    }

    @Test
    void ofSeveralColumnsIsPutIntoTheOrderOfTheKey() {
        assertThat(Key.of("berth_no=3,pier_id=2").valuesFor(schema.table("berth")))
                .isEqualTo(List.of(2L, 3L));
        assertThat(Key.of("berth_no", 3, "pier_id", 2).valuesFor(schema.table("berth")))
                .isEqualTo(List.of(2L, 3L));
    }

    @ParameterizedTest
    @ValueSource(strings = {"3", "berth_no=3", "berth_no=3,berth_no=4", "berth_no=3,pier=2", "berth_no=3,pier_id=x"})
    void ofSeveralColumnsMustNameEachOnce(String text) {
        assertThatThrownBy(() -> Key.of(text).valuesFor(schema.table("berth"))).isInstanceOf(MisuseException.class);
    }

    @Test
    void isNeverEmptyAndNeverMeansEveryRow() {
        assertThatThrownBy(() -> Request.delete("boat").key("")).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Request.delete("boat").key(null)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Request.delete("boat").keys(List.of())).hasMessageContaining("nothing is selected");
    }
}
