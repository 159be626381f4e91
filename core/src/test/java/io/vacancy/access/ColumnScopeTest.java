// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Harbour;
import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ColumnScopeTest {

    private static final ColumnScope OF_ADA = Scope.where("skipper_id", 1)
            .through("fee.mooring_id", "mooring.boat_id")
            .through("mooring.boat_id")
            .through("inspection.boat_id")
            .through("work_order.boat_id")
            .open("yard");

    private static Harbour scoped(Scope scope) {
        return new Harbour(Harbour.rules(book -> {}), builder -> builder.scope(() -> scope));
    }

    private static Table table(String name) {
        return Harbour.SCHEMA.table(name);
    }

    private static String on(Scope scope, String table) {
        Condition condition = scope.on(table(table));
        return condition == null ? "all" : ConditionText.of(condition);
    }

    @Test
    void tablesAreInsideByColumnByPathOrAreOpen() {
        Scope scope = OF_ADA.in(Harbour.SCHEMA);
        assertThat(on(scope, "boat")).isEqualTo("skipper_id = 1");
        assertThat(on(scope, "mooring"))
                .isEqualTo("EXISTS (SELECT 1 FROM boat WHERE boat.id = mooring.boat_id AND skipper_id = 1)");
        assertThat(on(scope, "fee"))
                .isEqualTo(
                        "EXISTS (SELECT 1 FROM mooring WHERE mooring.id = fee.mooring_id AND EXISTS (SELECT 1 FROM boat"
                                + " related_2 WHERE related_2.id = mooring.boat_id AND skipper_id = 1))");
        assertThat(on(scope, "yard")).isEqualTo("all");
        assertThat(on(scope, "skipper")).isEqualTo("id IN ()");
        assertThat(List.of(scope.closed(TableName.of("yard")), scope.closed(TableName.of("skipper"))))
                .containsExactly(false, true);
    }

    @Test
    void whatIsNotInTheTablesIsAnError() {
        for (ColumnScope wrong : List.of(
                Scope.where("skiper_id", 1),
                Scope.where("skipper_id", "one"),
                OF_ADA.open("wharf"),
                OF_ADA.through("boat.wharf_id"),
                OF_ADA.through("work_order.yard_id", "mooring.boat_id"),
                Scope.where("skipper_id", 1).through("fee.mooring_id"))) {
            assertThatThrownBy(() -> wrong.in(Harbour.SCHEMA)).isInstanceOf(MisuseException.class);
        }
        assertThatThrownBy(OF_ADA::through).isInstanceOf(MisuseException.class);
    }

    @Test
    void aRowOutsideIsLikeNoneAndAClosedTableIsAnError() {
        Harbour harbour = scoped(OF_ADA);
        assertThat(harbour.preview(Request.erase("boat").key(18)).state()).isEqualTo(Preview.State.NOTHING);
        assertThat(harbour.preview(Request.erase("fee").key(1800)).state()).isEqualTo(Preview.State.NOTHING);
        assertThat(harbour.preview(Request.erase("fee").key(1700)).state()).isEqualTo(Preview.State.READY);
        assertThatThrownBy(() -> harbour.preview(Request.erase("skipper").key(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("skipper is closed");
        assertThat(harbour.vacancy().tables().counts(List.of(TableName.of("fee"), TableName.of("yard"))))
                .isEqualTo(Map.of(TableName.of("fee"), 2L, TableName.of("yard"), 2L));
    }

    @Test
    void whatIsOutsideAndInTheWayIsNotTold() {
        // Without a path to moorings, those of a boat are out of sight, and stand in its way.
        Preview blocked = scoped(Scope.where("skipper_id", 1))
                .preview(Request.erase("boat").key(17));
        assertThat(blocked.blockers()).containsExactly(Blocker.hidden(TableName.of("boat")));
        assertThat(blocked.blockers().get(0).text()).isEqualTo("something that is not shown to you");
    }

    @Test
    void receiptsAndArchivedRowsAreThereUnderTheSameScope() {
        Harbour harbour = new Harbour(Harbour.rules(book -> {}));
        var own = harbour.vacancy();
        own.archive().setUp();
        Receipt all = own.execute(Request.erase("fee").key(1700).expect(1)).receiptOrThrow();
        var ada = io.vacancy.Vacancy.on(harbour.store())
                .rules(Harbour.rules(book -> {}))
                .actor(() -> "Mira Holm")
                .scope(() -> OF_ADA)
                .open();
        assertThat(ada.receipt(all.id())).isEmpty();
        assertThat(ada.archive().documents(all.id())).isEmpty();
        assertThatThrownBy(() -> ada.preview(Request.restore(all.id()))).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> ada.archive().holdReceipt(all.id(), "mine"))
                .hasMessageContaining("There is no receipt");
        own.archive().holdReceipt(all.id(), "somebody else's case");
        assertThat(ada.archive().holds()).isEmpty();
        assertThat(ada.history().page(9).entries()).isEmpty();
        Receipt mine = ada.execute(Request.erase("fee").key(1710).expect(1)).receiptOrThrow();
        assertThat(ada.receipt(mine.id())).isPresent();
        assertThat(own.receipt(mine.id())).isPresent();
        assertThat(ada.history().page(9).entries()).hasSize(1);
        assertThat(own.history().page(9).entries()).hasSize(3);
        assertThat(ada.execute(Request.restore(mine.id()).withoutConfirmation("a test")))
                .isInstanceOf(Outcome.Done.class);
    }

    @Test
    void marksCoverTheSameConditionAndThoseWithoutOne() {
        Condition seven = Scope.where("skipper_id", 7).in(Harbour.SCHEMA).on(table("boat"));
        Condition eight = Scope.where("SKIPPER_ID", 8).in(Harbour.SCHEMA).on(table("boat"));
        Map<TableName, Condition> scopes = Map.of(TableName.of("boat"), seven);
        String mark = ScopeMarks.of(scopes).of(TableName.of("boat"));
        assertThat(mark).hasSize(64).isEqualTo(ScopeMarks.of(scopes).of(TableName.of("boat")));
        assertThat(List.of(
                        ScopeMarks.covers(mark, seven),
                        ScopeMarks.covers(mark, eight),
                        ScopeMarks.covers(mark, null),
                        ScopeMarks.covers(null, seven),
                        ScopeMarks.covers(null, null)))
                .containsExactly(true, false, true, false, true);
    }
}
