// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Harbour;
import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.listener.Listener;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.TrailEntry;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** How requests end, and what is told of it. */
class OutcomeTest {

    private final Harbour harbour = new Harbour();
    private final Vacancy vacancy = harbour.vacancy();

    private List<TrailEntry> trail() {
        try (Stream<TrailEntry> entries = vacancy.history().open()) {
            return entries.toList();
        }
    }

    @Test
    void everyEndingSaysWhatWasDoneOrThatNothingWas() {
        Preview seen = harbour.preview(Request.erase("boat").key(19));
        assertThat(vacancy.execute(seen, seen.question().answer("no")).message())
                .isEqualTo("Declined; nothing was changed.");
        assertThat(harbour.answered(Request.erase("boat").key(17)).message())
                .startsWith("Erased 1 row of boat and 4 rows with it; receipt ");
        assertThat(vacancy.execute(Request.erase("boat").key(17).expect(1)).message())
                .isEqualTo("Table boat has no row with id 17; nothing was changed.");
        assertThat(vacancy.execute(Request.erase("boat").key(14).expect(1)).message())
                .isEqualTo("Blocked by 1 row of inspection through inspection.boat_id: inspections must be kept."
                        + " Nothing was changed.");
        assertThat(vacancy.execute(Request.erase("fee").everyRow().expect(1)).message())
                .isEqualTo("\"Erase fee id 1800?\" requires the name of the table to be typed; an expected count stands"
                        + " for a yes to a yes/no question only. Nothing was changed.");
        assertThat(harbour.answered(Request.erase("mooring").everyRow().onBlocked(OnBlocked.SKIP))
                        .message())
                .startsWith("Erased 1 row of mooring, skipped 1 row; receipt ");
        Receipt receipt = harbour.done(Request.erase("boat").key(19));
        assertThat(vacancy.execute(seen, seen.question().answer("yes")).message())
                .isEqualTo("It has changed since it was shown: delete boat: 1 row then, 0 now. Nothing was changed;"
                        + " look again and answer anew.");
        assertThat(harbour.answered(Request.restore(receipt.id())).message()).startsWith("Restored 1 row of boat; ");
        assertThat(harbour.answered(Request.purge(receipt.id())).message()).startsWith("Purged 1 archived row; ");
    }

    @Test
    void softDeletedRowsAreFoundNoMore() {
        Harbour marked = new Harbour(Harbour.marked());
        assertThat(marked.answered(Request.softDelete("boat").key(17)).message())
                .startsWith("Marked as deleted 1 row of boat and 2 rows with it; receipt ");
        assertThat(marked.vacancy()
                        .execute(Request.softDelete("boat").key(17).expect(1))
                        .message())
                .isEqualTo("1 row of boat is marked as deleted already; nothing was changed.");
        assertThat(marked.store().rows("boat")).hasSize(4);
        assertThat(marked.store().rows("mooring"))
                .filteredOn(row -> row.getLong("boat_id") == 17)
                .allSatisfy(row -> assertThat(row.text("left_on")).isEqualTo("2026-11-26"));
    }

    @Test
    void theReceiptHasTheRecordTheCountsAndWhoWhenAndWhy() {
        Receipt receipt = harbour.done(Request.erase("boat").key(17).because("sold"));
        assertThat(receipt.record().text("name")).isEqualTo("Osprey");
        assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, 5L, Action.SET_NULL, 1L));
        assertThat(receipt)
                .returns("Mira Holm", Receipt::by)
                .returns("sold", Receipt::because)
                .returns(Harbour.NOW, Receipt::at)
                .returns(true, Receipt::archived);
        assertThat(vacancy.receipt(receipt.id())).contains(receipt);
        assertThat(vacancy.receipt(ReceiptId.next(Harbour.NOW))).isEmpty();
    }

    @Test
    void theTrailSaysHowItWasConfirmed() {
        harbour.done(Request.erase("boat").key(17).because("sold"));
        vacancy.execute(Request.erase("fee").key(1800).withoutConfirmation("nightly"))
                .receiptOrThrow();
        vacancy.execute(Request.erase("mooring").key(180).expect(1)).receiptOrThrow();
        Preview seen = harbour.preview(Request.erase("boat").key(19).acceptUnasked());
        vacancy.execute(seen).receiptOrThrow();

        assertThat(trail())
                .extracting(entry -> entry.confirmation().how())
                .containsExactly(
                        Confirmation.How.ACCEPTED_UNASKED,
                        Confirmation.How.EXPECTED,
                        Confirmation.How.WITHOUT_CONFIRMATION,
                        Confirmation.How.QUESTION);
        TrailEntry first = trail().get(3);
        assertThat(first)
                .returns("Mira Holm", TrailEntry::by)
                .returns("sold", TrailEntry::because)
                .returns("boat", TrailEntry::table)
                .returns("by 1 key", TrailEntry::selected);
        assertThat(first.confirmation().words()).isEqualTo("Erase boat Osprey (HV-204)?");
        assertThat(first.confirmation().answer()).isEqualTo("yes");
        assertThat(first.affected())
                .extracting(rows -> rows.table() + " " + rows.action() + " " + rows.keys())
                .containsExactly(
                        "boat DELETE [17]",
                        "mooring DELETE [170, 171]",
                        "fee DELETE [1700, 1710]",
                        "work_order SET_NULL [5]");
        assertThat(vacancy.history().of("fee", 1710).page(10).entries()).hasSize(1);
        assertThat(vacancy.history().by("somebody else").page(10).entries()).isEmpty();
        assertThat(vacancy.history().page(3).next()).isEqualTo(trail().get(2).id());
        assertThat(vacancy.history().after(trail().get(2).id()).page(3).entries())
                .hasSize(1);
    }

    @Test
    void anAnswerIsJudgedOnTheQuestionAsItIsNow() {
        Request request = Request.erase("boat").key(17);
        Preview seen = harbour.preview(request);
        assertThat(vacancy.execute(request, Answer.of("0000", "yes")).state()).isEqualTo(Outcome.State.CHANGED);
        assertThat(vacancy.execute(request, Answer.of(seen.fingerprint(), "perhaps"))
                        .state())
                .isEqualTo(Outcome.State.DECLINED);
        Preview other = harbour.preview(Request.erase("boat").key(19));
        assertThatThrownBy(() -> vacancy.execute(seen, other.question().answer("yes")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("belongs to another preview");
        assertThatThrownBy(() -> vacancy.execute(request))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("Confirmation is required");
        assertThat(vacancy.execute(request, Answer.of(seen.fingerprint(), "yes"))
                        .state())
                .isEqualTo(Outcome.State.DONE);
    }

    @Test
    void listenersHearInOrderAndTheirFailuresChangeNothing() {
        List<String> heard = new ArrayList<>();
        Harbour listened = new Harbour(
                Harbour.rules(book -> {}),
                builder -> builder.listener(new Listener() {
                    @Override
                    public void previewed(Preview preview) {
                        heard.add("previewed " + preview.state().word());
                    }

                    @Override
                    public void ended(Request request, Outcome outcome) {
                        heard.add("ended " + outcome.state().word());
                        throw new IllegalStateException("no mail server");
                    }

                    @Override
                    public void afterCommitFailed(Request request, Receipt receipt, String warning) {
                        heard.add(warning);
                    }
                }));
        Outcome outcome = listened.answered(Request.erase("boat").key(19));
        assertThat(outcome).isInstanceOfSatisfying(Outcome.Done.class, done -> assertThat(done.warnings())
                .containsExactly("Committed, but a listener failed: no mail server."));
        assertThat(heard).containsExactly("previewed ready", "ended done");
        assertThat(listened.store().rows("boat")).hasSize(3);
    }

    @Test
    void rowsAreHandedOverBeforeTheyAreDeleted() {
        List<String> taken = new ArrayList<>();
        vacancy.onEachRow(new RowHandler() {
                    @Override
                    public void take(Row row) {
                        taken.add(row.text("name"));
                    }

                    @Override
                    public void committed() {
                        taken.add("committed");
                    }
                })
                .execute(Request.erase("boat").keys(17, 19).expect(2))
                .receiptOrThrow();
        assertThat(taken).containsExactly("Osprey", "Osprey", "committed");
    }

    @Test
    void theActorIsNamedAndNotTooLong() {
        Harbour nobody = new Harbour(Harbour.rules(book -> {}), builder -> builder.actor(() -> " "));
        assertThatThrownBy(() -> nobody.preview(Request.erase("boat").key(17)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("The actor is empty");
        Harbour verbose = new Harbour(Harbour.rules(book -> {}), builder -> builder.actor(() -> "x".repeat(256)));
        assertThatThrownBy(() -> verbose.preview(Request.erase("boat").key(17)))
                .hasMessageContaining("The actor has 256 characters, and a receipt keeps 255.");
        assertThatThrownBy(() -> Vacancy.on(harbour.store()).open()).hasMessageContaining("An actor is required");
    }

    @Test
    void whatIsAlreadyRestoredOrPurgedIsMisuseToAskForAndAChangeToExecute() {
        Receipt receipt = harbour.done(Request.erase("boat").key(19));
        Preview back = harbour.preview(Request.restore(receipt.id()));
        harbour.done(Request.restore(receipt.id()));
        assertThat(vacancy.execute(back, back.question().answer("yes")).state()).isEqualTo(Outcome.State.CHANGED);
        assertThatThrownBy(() -> harbour.preview(Request.restore(receipt.id())))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("Nothing can be restored by receipt");
        harbour.done(Request.purge(receipt.id()));
        assertThatThrownBy(() -> harbour.preview(Request.purge(receipt.id())))
                .hasMessageContaining("Nothing is archived under receipt");
    }
}
