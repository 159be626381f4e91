// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.message;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Harbour;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.Question;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Retention;
import java.time.Period;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What a person is asked before anything is done. */
class QuestionTextTest {

    private static final String ARCHIVED = "A copy is archived, from which it can be restored.";
    private static final String WITH_IT = "4 rows of 2 tables will be deleted with it: 2 mooring, 2 fee.";
    private static final String UNLINKED =
            "1 row of work_order stays and loses its link: work_order.boat_id becomes NULL.";

    private final Harbour harbour = new Harbour();

    private Question asked(Request request) {
        Preview preview = harbour.preview(request);
        assertThat(preview.state()).isEqualTo(Preview.State.READY);
        return preview.question();
    }

    @Test
    void oneRowIsNamedByItsLabelWithAllThatIsDeletedWithIt() {
        Question question = asked(Request.erase("boat").key(17));
        assertThat(question.title()).isEqualTo("Erase boat Osprey (HV-204)?");
        assertThat(question.consequences()).containsExactly(WITH_IT, UNLINKED, ARCHIVED);
        assertThat(question.strength()).isEqualTo(Strength.YES_NO);
    }

    @Test
    void severalRowsAreCountedWithTheConditionThatSelectsThem() {
        assertThat(asked(Request.erase("boat").keys(17, 19)).title()).isEqualTo("Erase 2 rows of boat?");
        Question question = asked(Request.erase("boat").where(column("name").equalTo("Osprey")));
        assertThat(question.title()).isEqualTo("Erase 2 rows of boat where name = 'Osprey'?");
        assertThat(question.consequences()).containsExactly(WITH_IT, UNLINKED, ARCHIVED);
    }

    @Test
    void withoutALabelARowIsNamedByItsKey() {
        Question question = asked(Request.erase("mooring").key(170));
        assertThat(question.title()).isEqualTo("Erase mooring id 170?");
        assertThat(question.consequences())
                .containsExactly("1 row of one table will be deleted with it: 1 fee.", ARCHIVED);
    }

    @Test
    void whatIsSkippedIsToldAsWell() {
        Question question = asked(Request.erase("boat").everyRow().onBlocked(OnBlocked.SKIP));
        assertThat(question.title()).isEqualTo("Erase 2 rows of boat?");
        assertThat(question.consequences())
                .containsExactly(
                        WITH_IT,
                        UNLINKED,
                        "2 rows that were selected as well stay, because they are blocked.",
                        ARCHIVED);
    }

    @Test
    void anotherParentIsNamed() {
        Question question = asked(Request.erase("yard").key(1).reassign("work_order.yard_id", 2));
        assertThat(question.title()).isEqualTo("Erase yard Slip and Sons (id 1)?");
        assertThat(question.consequences())
                .containsExactly(
                        "Nothing else will be deleted.",
                        "1 row of work_order stays and gets another parent: work_order.yard_id becomes 2.",
                        ARCHIVED);
    }

    @Test
    void howLongACopyIsArchivedIsSaidOrThatThereIsNone() {
        assertThat(asked(Request.erase("boat").key(19).withoutArchive()).consequences())
                .containsExactly("Nothing else will be deleted.", "No copy is archived, so it cannot be restored.");
        Harbour month = new Harbour(Harbour.rules(book -> book.retention(Retention.UNLIMITED.images(Period.ofDays(30)))
                .table("mooring", t -> t.retention(Retention.UNLIMITED.withoutImages()))));
        assertThat(month.preview(Request.erase("boat").key(17)).question().consequences())
                .containsExactly(
                        WITH_IT,
                        UNLINKED,
                        "A copy is archived for 30 days, from which it can be restored.",
                        "Rows of mooring are not archived, as the rule book says.");
    }

    @Test
    void everyRowOfATableRequiresItsName() {
        Question question = asked(Request.truncate("fee"));
        assertThat(question.title()).isEqualTo("Empty table fee at once, all 3 rows?");
        assertThat(question.consequences())
                .startsWith("Every row is meant, whatever a list or a filter showed before: none stays.");
        assertThat(question.strength()).isEqualTo(Strength.TABLE);
        assertThat(question.awaited()).isEqualTo("fee");
        // A condition that takes every row is every row.
        assertThat(asked(Request.erase("fee").where(column("id").atLeast(0))).awaited())
                .isEqualTo("fee");
    }

    @Test
    void theRuleBookMayAskForMore() {
        Harbour careful = new Harbour(
                Harbour.rules(book -> book.question("boat", Strength.LABEL).question(3, Strength.COUNT)));
        assertThat(careful.preview(Request.erase("boat").key(19)).question().awaited())
                .isEqualTo("Osprey (HV-206)");
        assertThat(careful.preview(Request.erase("mooring").keys(170, 171)).question())
                .returns(Strength.COUNT, Question::strength)
                .returns("4", Question::awaited);
        assertThat(careful.preview(Request.erase("fee").key(1700)).question().strength())
                .isEqualTo(Strength.YES_NO);
    }

    @Test
    void whatIsMarkedStaysAndIsCountedAmongTheActive() {
        Harbour marked = new Harbour(Harbour.marked());
        Question question = marked.preview(Request.softDelete("boat").key(17)).question();
        assertThat(question.title()).isEqualTo("Mark as deleted boat Osprey (HV-204)?");
        assertThat(question.consequences())
                .containsExactly(
                        "2 rows of one table will be marked with it: 2 mooring.",
                        "What is marked stays in the database and can be restored.",
                        "4 of 4 rows of boat are active now, 3 of 4 afterwards.");
        marked.done(Request.softDelete("boat").key(17));

        assertThat(marked.preview(Request.erase("boat").keys(17, 19)).question().consequences())
                .containsExactly(
                        "Nothing else will be deleted.",
                        ARCHIVED,
                        "1 row that was selected as well is marked as deleted already, and left out.",
                        "3 of 4 rows of boat are active now, 2 of 3 afterwards.");
        assertThat(marked.preview(Request.restore("boat").key(17)).question().title())
                .isEqualTo("Restore boat Osprey (HV-204)?");
    }

    @Test
    void restoringAndPurgingAreAskedInTheirOwnWords() {
        Receipt receipt = harbour.done(Request.erase("boat").key(17));
        Question back = asked(Request.restore(receipt.id()));
        assertThat(back.title()).isEqualTo("Restore boat Osprey (HV-204)?");
        assertThat(back.consequences()).hasSize(1).first().asString().contains("2 mooring, 2 fee");
        Question purge = asked(Request.purge(receipt.id()));
        assertThat(purge.title()).isEqualTo("Purge 5 archived rows of 3 tables?");
        assertThat(purge.consequences())
                .containsExactly("No row that is there changes.", "It cannot be restored afterwards.");
    }

    @Test
    void whereNothingCanBeDoneNothingIsAsked() {
        List<Request> hopeless = List.of(
                Request.erase("boat").key(99),
                Request.erase("boat").key(14),
                Request.erase("boat").keys(17, 19).atMost(1),
                Request.truncate("yard"));
        for (Request request : hopeless) {
            Question question = harbour.preview(request).question();
            assertThat(question.strength()).isEqualTo(Strength.NONE);
            assertThat(question.consequences()).isEmpty();
            assertThat(question.title()).startsWith("Nothing to ask: ");
        }
    }
}
