// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.access.Scope;
import io.vacancy.advice.Advice;
import io.vacancy.failure.MisuseException;
import io.vacancy.rules.Retention;
import io.vacancy.schema.TableName;
import java.time.Period;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class TablesTest {

    private final Harbour harbour = new Harbour(Harbour.marked());

    @Test
    void rowsAreCountedAsFarAsTheActorMaySeeThem() {
        TableName fee = TableName.of("fee");
        assertThat(harbour.vacancy().tables().counts(List.of(fee))).isEqualTo(Map.of(fee, 3L));
        Harbour scoped = new Harbour(Harbour.marked(), builder -> builder.scope(() -> Scope.where("mooring_id", 170)));
        assertThat(scoped.vacancy().tables().counts(List.of(fee))).isEqualTo(Map.of(fee, 1L));
        Harbour blind =
                new Harbour(Harbour.marked(), builder -> builder.permission((who, table, act) -> "Not for you."));
        assertThatThrownBy(() -> blind.vacancy().tables().counts(List.of(fee)))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Not for you.");
        assertThat(harbour.vacancy().tables().orphans()).isEmpty();
        assertThatThrownBy(() -> harbour.vacancy().tables().orphans("fee.mooring"))
                .hasMessageContaining("did you mean fee.mooring_id?");
    }

    @Test
    void adviceSaysWhatIsWorthMending() {
        assertThat(harbour.vacancy().tables().advisor().all())
                .extracting(advice -> advice.kind() + " " + advice.relation())
                .contains("NO_INDEX mooring.boat_id", "NO_MARKER fee.mooring_id", "NO_MARKER inspection.boat_id");
        assertThat(harbour.vacancy().tables().advisor().all())
                .filteredOn(advice -> advice.kind() == Advice.Kind.NO_INDEX)
                .extracting(Advice::message)
                .contains("No index leads to the rows of mooring by boat_id: the whole table is read whenever a row of"
                        + " boat is deleted.");
    }

    @Test
    void aLengthOfTimeIsWrittenInWords() {
        assertThat(Retention.period("30 days")).isEqualTo(Period.ofDays(30));
        assertThat(Retention.period(" 1 Week ")).isEqualTo(Period.ofDays(7));
        assertThat(Retention.period("3 months")).isEqualTo(Period.ofMonths(3));
        assertThat(Retention.period("7 years")).isEqualTo(Period.ofYears(7));
        for (String wrong : List.of("", "days", "-1 days", "3 moons", "1.5 days")) {
            assertThatThrownBy(() -> Retention.period(wrong)).hasMessageContaining("is no length of time");
        }
    }
}
