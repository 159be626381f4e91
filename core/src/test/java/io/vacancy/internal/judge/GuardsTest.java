// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.judge;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Harbour;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Limits;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What is refused whatever the answer. */
class GuardsTest {

    private final Harbour harbour = new Harbour();

    private String refusal(Request request) {
        Preview preview = harbour.preview(request);
        return preview.state() == Preview.State.REFUSED ? preview.refusal() : null;
    }

    @Test
    void eachLimitRefusesAboveItAndNotAtIt() {
        Request two = Request.erase("boat").keys(17, 19);
        assertThat(refusal(two.atMost(2))).isNull();
        assertThat(refusal(two.atMost(1)))
                .isEqualTo("The selection has 2 rows of boat, and at most 1 may be deleted at once.");
        assertThat(refusal(two.expect(2))).isNull();
        assertThat(refusal(two.expect(1))).isEqualTo("1 row of boat was expected, but the selection has 2 rows.");
        assertThat(refusal(two.expect(3))).isEqualTo("3 rows of boat were expected, but the selection has 2 rows.");
        assertThat(refusal(two.atMostInAll(6))).isNull();
        assertThat(refusal(two.atMostInAll(5)))
                .isEqualTo("6 rows would be deleted in total, and at most 5 may be deleted at once.");
        assertThat(refusal(two.atMostPercent(50))).isNull();
        assertThat(refusal(two.atMostPercent(49)))
                .isEqualTo("The selection has 2 of the 4 rows of boat, and at most 49 per cent may be deleted at once:"
                        + " 1 row.");
    }

    @Test
    void theStricterOfRuleBookAndRequestHolds() {
        Harbour strict = new Harbour(Harbour.rules(book -> book.table("fee", t -> t.limits(Limits.NONE.atMost(1)))));
        assertThat(strict.preview(Request.erase("fee").keys(1700, 1710).atMost(5))
                        .state())
                .isEqualTo(Preview.State.REFUSED);
        assertThat(strict.preview(Request.erase("fee").key(1700).atMost(5)).state())
                .isEqualTo(Preview.State.READY);
    }

    @Test
    void aTableThatMustNeverBeEmptyKeepsARow() {
        Harbour kept = new Harbour(Harbour.rules(book -> book.table("fee", t -> t.neverEmpty())));
        assertThat(kept.preview(Request.erase("fee").everyRow()).refusal())
                .isEqualTo("Every one of the 3 rows of fee would be deleted, and the table is never to be emptied.");
        assertThat(kept.preview(Request.erase("fee").keys(1700, 1710)).state()).isEqualTo(Preview.State.READY);
    }

    @Test
    void aTableThatIsNeverDeletedFromBlocksWhereverItIsReached() {
        Harbour kept = new Harbour(Harbour.rules(book -> book.table("fee", t -> t.neverDeleted())));
        assertThat(kept.preview(Request.erase("mooring").key(170)).state()).isEqualTo(Preview.State.BLOCKED);
        assertThat(kept.preview(Request.erase("fee").key(1700)).state()).isNotEqualTo(Preview.State.READY);
    }

    @Test
    void aTableIsEmptiedAtOnceOnlyWhereNothingRefersToItAndAllOfItIsSeen() {
        assertThat(refusal(Request.truncate("yard")))
                .isEqualTo("Table yard cannot be emptied at once, because work_order.yard_id refers to it. Remove every"
                        + " row with its rules instead.");
        Harbour scoped =
                new Harbour(Harbour.rules(book -> {}), builder -> builder.scope(() -> Scope.where("mooring_id", 170)));
        assertThat(scoped.preview(Request.truncate("fee")).refusal())
                .contains("cannot be emptied at once by somebody who may not see all of it");
    }

    @Test
    void permissionIsAskedForWhatIsSelectedAndForAllThatIsAffected() {
        List<String> asked = new ArrayList<>();
        Harbour guarded = new Harbour(
                Harbour.rules(book -> {}),
                builder -> builder.permission((who, table, act) -> {
                    asked.add(who + " " + table + " " + act);
                    return act == Act.ERASE && table.toString().equals("fee") ? "Fees are for the office." : null;
                }));
        assertThat(guarded.preview(Request.erase("boat").key(17)).state()).isEqualTo(Preview.State.READY);
        Outcome outcome =
                guarded.vacancy().execute(Request.erase("boat").key(17).expect(1));
        assertThat(outcome).isInstanceOf(Outcome.Refused.class);
        assertThat(outcome.message()).contains("Fees are for the office.");
        assertThat(guarded.store().rows("boat")).hasSize(4);
        assertThat(asked)
                .contains(
                        "Mira Holm boat LOOK",
                        "Mira Holm boat ERASE",
                        "Mira Holm mooring ERASE",
                        "Mira Holm fee ERASE");

        Harbour blind = new Harbour(
                Harbour.rules(book -> {}), builder -> builder.permission((who, table, act) -> "Not for you."));
        Preview preview = blind.preview(Request.erase("boat").key(17));
        assertThat(preview.state()).isEqualTo(Preview.State.REFUSED);
        assertThat(preview.impact().effects()).isEmpty();
    }
}
