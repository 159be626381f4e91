// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Harbour;
import io.vacancy.Vacancy;
import io.vacancy.condition.ConditionText;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.test.MemorySchema;
import io.vacancy.test.MemoryStore;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

/** How rows of a table are marked as deleted, and come back. */
class MarkerTest {

    private final MemoryStore store = MemoryStore.of(new MemorySchema()
                    .table(
                            "buoy",
                            "id integer key",
                            "active text null",
                            "gone_on date null",
                            "until_on date",
                            "state text",
                            "gone_by text null",
                            "gone_why text null",
                            "gone_receipt text null",
                            "back_at timestamp null",
                            "was text null")
                    .build())
            .insert("buoy", 1, "Y", null, "9999-12-31", "afloat", null, null, null, null, null)
            .insert("buoy", 2, "Y", null, "9999-12-31", "moored", null, null, null, null, null);

    private Vacancy on(Marker marker) {
        return Vacancy.on(store)
                .rules(RuleBook.build(
                        book -> book.table("buoy", t -> t.marker(marker).mode(Mode.SOFT_DELETE))))
                .actor(() -> "Mira Holm")
                .clock(Clock.fixed(Harbour.NOW, ZoneOffset.UTC))
                .open();
    }

    private Object value(String column) {
        return store.rows("buoy").stream()
                .filter(row -> row.getLong("id") == 1)
                .findFirst()
                .orElseThrow()
                .get(column);
    }

    /** Marks buoy 1 and checks that it is left out, then brings it back. */
    private void roundTrip(Marker marker, String column, Object marked, Object active) {
        Vacancy vacancy = on(marker);
        vacancy.execute(Request.delete("buoy").key(1).expect(1)).receiptOrThrow();
        assertThat(value(column)).isEqualTo(marked);
        assertThat(vacancy.preview(Request.delete("buoy").key(1)).state()).isEqualTo(Preview.State.NOTHING);
        assertThat(vacancy.preview(Request.delete("buoy").everyRow()).impact().selected())
                .isEqualTo(1);
        assertThat(vacancy.execute(Request.restore("buoy").key(1).expect(1))).isInstanceOf(Outcome.Done.class);
        assertThat(value(column)).isEqualTo(active);
        assertThat(vacancy.preview(Request.delete("buoy").key(1)).state()).isEqualTo(Preview.State.READY);
    }

    @Test
    void aFlagHasTwoValues() {
        roundTrip(Marker.flag("active", "Y", "N"), "active", "N", "Y");
    }

    @Test
    void aDateIsNullWhileARowIsActive() {
        roundTrip(Marker.date("gone_on"), "gone_on", LocalDate.of(2026, 11, 26), null);
    }

    @Test
    void anEndDateIsFarAwayWhileARowIsActive() {
        roundTrip(
                Marker.endDate("until_on", "9999-12-31"),
                "until_on",
                LocalDate.of(2026, 11, 26),
                LocalDate.of(9999, 12, 31));
    }

    @Test
    void aStatusComesBackAsWhatItWas() {
        roundTrip(Marker.status("state", "sunk", "afloat", "moored").was("was"), "state", "sunk", "afloat");
        assertThat(value("was")).isNull();
    }

    @Test
    void whoWhyAndWhichReceiptStandBesideIt() {
        Vacancy vacancy = on(Marker.date("gone_on")
                .who("gone_by")
                .why("gone_why")
                .receipt("gone_receipt")
                .restoredAt("back_at"));
        Receipt receipt = vacancy.execute(
                        Request.delete("buoy").key(1).because("rusty").expect(1))
                .receiptOrThrow();
        assertThat(value("gone_by")).isEqualTo("Mira Holm");
        assertThat(value("gone_why")).isEqualTo("rusty");
        assertThat(value("gone_receipt")).isEqualTo(receipt.id().value());
        Preview back = vacancy.preview(Request.restore(receipt.id()));
        vacancy.execute(back, back.question().answer("yes")).receiptOrThrow();
        assertThat(value("gone_by")).isNull();
        assertThat(value("back_at")).isNotNull();
    }

    @Test
    void whatIsActiveIsAConditionForTheApplication() {
        assertThat(ConditionText.of(on(Marker.flag("active", "Y", "N")).tables().active("buoy")))
                .isEqualTo("active IS NULL OR active <> 'N'");
        assertThat(ConditionText.of(on(Marker.date("gone_on")).tables().active("buoy")))
                .contains("gone_on IS NULL");
        assertThat(ConditionText.of(on(Marker.status("state", "sunk", "afloat", "moored"))
                        .tables()
                        .active("buoy")))
                .contains("state");
        assertThatThrownBy(() -> new Harbour().vacancy().tables().active("boat"))
                .hasMessageContaining("gives boat no marker, so all of its rows are active");
    }
}
