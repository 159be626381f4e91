// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Archive;
import io.vacancy.Harbour;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.trail.TrailEntry;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Holds, and what the archive says of itself. */
class HoldTest {

    private final Harbour harbour = new Harbour();
    private final Archive archive = harbour.vacancy().archive();

    @Test
    void aHoldIsOnAReceiptATableOrARowAndSaysWhy() {
        Receipt receipt = harbour.done(Request.erase("boat").key(19));
        Hold onReceipt = archive.holdReceipt(receipt.id(), "case 7");
        Hold onTable = archive.holdTable("Fee", "audit");
        Hold onRow = archive.holdRow("boat", "17", "case 8");
        assertThat(archive.holds())
                .extracting(Hold::on)
                .containsExactly("receipt " + receipt.id(), "every row of fee", "boat 17");
        assertThat(onRow.by()).isEqualTo("Mira Holm");
        archive.release(onTable.number());
        assertThat(archive.holds()).extracting(Hold::number).containsExactly(onReceipt.number(), onRow.number());

        try (Stream<TrailEntry> entries = harbour.vacancy().history().open()) {
            assertThat(entries.map(entry -> entry.kind().word() + " " + entry.because())
                            .toList())
                    .containsExactly("release audit", "hold case 8", "hold audit", "hold case 7", "erase null");
        }
    }

    @Test
    void whatIsNotThereCannotBeHeldOrReleased() {
        assertThatThrownBy(() -> archive.holdReceipt(ReceiptId.of("nothing"), "x"))
                .isInstanceOf(MisuseException.class)
                .hasMessage("There is no receipt nothing to hold.");
        assertThatThrownBy(() -> archive.holdRow("boat", "seventeen", "x"))
                .hasMessageContaining("cannot be a value of boat.id");
        assertThatThrownBy(() -> archive.holdTable("bota", "x")).hasMessageContaining("did you mean boat?");
        assertThatThrownBy(() -> archive.release(99)).hasMessage("No hold 99 is in force.");
        assertThatThrownBy(() -> new Hold(0, null, null, List.of(), "x", "y", null))
                .isInstanceOf(MisuseException.class);
    }

    @Test
    void whatIsArchivedIsListedNewestFirstUntilItIsUsed() {
        Receipt first = harbour.done(Request.erase("boat").key(19).because("sold"));
        Receipt second = harbour.done(Request.erase("fee").key(1700));
        assertThat(receipts(ArchiveQuery.all())).containsExactly(second.id(), first.id());
        assertThat(receipts(ArchiveQuery.all().of("boat"))).containsExactly(first.id());
        assertThat(receipts(ArchiveQuery.all().by("somebody else"))).isEmpty();
        harbour.done(Request.restore(first.id()));
        assertThat(receipts(ArchiveQuery.all())).containsExactly(second.id());
        assertThat(receipts(ArchiveQuery.all().withUsed())).contains(first.id());
        assertThat(archive.due()).isEmpty();
        assertThat(archive.documents(first.id())).hasSize(1);
    }

    private List<ReceiptId> receipts(ArchiveQuery query) {
        try (Stream<ArchivedRows> rows = archive.rows(query)) {
            return rows.map(ArchivedRows::receipt).toList();
        }
    }

    @Test
    void aReceiptIdIsShortAndInOneWord() {
        assertThat(ReceiptId.next(Harbour.NOW).value()).hasSize(36).matches("01a[0-9a-f]{5}-[0-9a-f]{4}-7.*");
        assertThat(ReceiptId.ofNullable(null)).isNull();
        assertThatThrownBy(() -> ReceiptId.of("x".repeat(65))).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> ReceiptId.of("two words")).isInstanceOf(MisuseException.class);
        assertThat(ReceiptId.of("x".repeat(64)).toString()).hasSize(64);
    }
}
