// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.LongStream;

class DeletionTest {

    @OnEveryEngine
    void aPreviewCountsWhatWouldGoAndChangesNothing(Engine engine) {
        Bench bench = Bench.harbour(engine);

        Preview preview = bench.vacancy().preview(Request.delete("boat").key("17"));

        assertThat(preview.state()).isEqualTo(Preview.State.READY);
        assertThat(lines(preview.effects()))
                .containsExactly(
                        "delete boat 1",
                        "delete logbook_entry 4 logbook_entry.boat_id",
                        "delete mooring 2 mooring.boat_id",
                        "delete fee 3 fee.mooring_id",
                        "delete power_reading 5 power_reading.mooring_id",
                        "set-null work_order 2 work_order.boat_id");
        assertThat(preview.totals())
                .containsOnly(java.util.Map.entry(Action.DELETE, 15L), java.util.Map.entry(Action.SET_NULL, 2L));
        Row boat = preview.records().get(0);
        assertThat(boat.get("name")).isEqualTo("Osprey");
        assertThat(boat.get("length_m")).isEqualTo(new BigDecimal("11.35"));
        assertThat(boat.get("left_on")).isNull();
        assertThat(bench.count("boat")).isEqualTo(8);
        assertThat(bench.vacancy().preview(Request.delete("boat").key(17)).fingerprint())
                .isEqualTo(preview.fingerprint());
    }

    @OnEveryEngine
    void whatWasShownGoesAndTheReceiptTells(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Preview seen = bench.vacancy().preview(Request.delete("boat").key(17).because("sold"));

        Receipt receipt =
                bench.vacancy().execute(seen, seen.question().answer("yes")).receiptOrThrow();

        assertThat(receipt.record().get("registration")).isEqualTo("HV-204");
        assertThat(receipt.effects())
                .isEqualTo(seen.effects().stream()
                        .map(shown -> new Effect(
                                shown.table(),
                                shown.action(),
                                shown.relation(),
                                shown.becomes(),
                                shown.rows(),
                                List.of()))
                        .toList());
        assertThat(seen.effects())
                .allSatisfy(shown -> assertThat(shown.sample()).isNotEmpty());
        assertThat(receipt.by()).isEqualTo("Mira Holm");
        assertThat(receipt.because()).isEqualTo("sold");
        assertThat(bench.count("boat WHERE id = 17")).isZero();
        assertThat(bench.count("mooring WHERE boat_id = 17")).isZero();
        assertThat(bench.count("fee")).isEqualTo(6);
        assertThat(bench.count("power_reading")).isEqualTo(5);
        assertThat(bench.count("logbook_entry")).isEqualTo(3);
        assertThat(bench.count("work_order WHERE boat_id IS NULL")).isEqualTo(2);
        assertThat(bench.count("boat")).isEqualTo(7);
    }

    @OnEveryEngine
    void whatStandsInTheWayIsListedAndNothingGoes(Engine engine) {
        Bench bench = Bench.harbour(engine);

        Outcome outcome = bench.vacancy().execute(Request.delete("boat").key(14).expect(1));

        assertThat(outcome).isInstanceOfSatisfying(Outcome.Blocked.class, blocked -> {
            assertThat(blocked.preview().blockers()).hasSize(1);
            assertThat(blocked.preview().blockers().get(0).rows()).isEqualTo(2);
            assertThat(blocked.preview().blockers().get(0).sample().get(0).get("inspected_on"))
                    .isEqualTo(LocalDate.of(2025, 4, 16));
        });
        assertThat(bench.count("boat")).isEqualTo(8);
        assertThat(bench.count("fee")).isEqualTo(9);
    }

    @OnEveryEngine
    void nothingFoundIsAnEndingOfItsOwn(Engine engine) {
        Bench bench = Bench.harbour(engine);

        Outcome outcome = bench.vacancy().execute(Request.delete("boat").key(99).expect(1));

        assertThat(outcome).isInstanceOf(Outcome.Nothing.class);
        assertThat(outcome.message()).isEqualTo("Table boat has no row with id 99; nothing was changed.");
    }

    @OnEveryEngine
    void missingKeysAreCountedApartFromThoseThatAreThere(Engine engine) {
        Bench bench = Bench.harbour(engine);

        Preview preview = bench.vacancy().preview(Request.delete("fee").keys(701, 702, "702", 799));

        assertThat(preview.effects().get(0).rows()).isEqualTo(2);
        assertThat(preview.missing().rows()).isEqualTo(1);
        assertThat(preview.missing().sample().get(0).get("id")).isEqualTo(799L);
        assertThat(bench.vacancy().execute(Request.delete("fee").keys(701, 799).expect(2)))
                .isInstanceOf(Outcome.Refused.class);
    }

    @OnEveryEngine
    void whatChangedBetweenQuestionAndAnswerChangesNothingAndIsTold(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Preview seen = bench.vacancy().preview(Request.delete("boat").key(17));
        bench.database()
                .run(
                        "UPDATE boat SET name = 'Ospray' WHERE id = 17",
                        "INSERT INTO fee VALUES (799, 7, 507, 1.00, '2026-01-01', TRUE)");

        Outcome outcome = bench.vacancy().execute(seen, seen.question().answer("yes"));

        assertThat(outcome).isInstanceOfSatisfying(Outcome.Changed.class, changed -> assertThat(changed.differences())
                .containsExactly(
                        "delete fee through fee.mooring_id: 3 rows then, 4 now.", "boat.name was Osprey, is Ospray."));
        assertThat(bench.count("boat")).isEqualTo(8);
        assertThat(bench.count("fee")).isEqualTo(10);
    }

    @OnEveryEngine
    void aRowReachedTwoWaysCountsOnce(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE crate (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE line (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, crate_id INTEGER,"
                        + " second_boat_id INTEGER,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE,"
                        + " FOREIGN KEY (second_boat_id) REFERENCES boat (id) ON DELETE SET NULL,"
                        + " FOREIGN KEY (crate_id) REFERENCES crate (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1), (2)",
                "INSERT INTO crate VALUES (1, 1), (2, 2)",
                // 10 by both ways, 11 by the crate alone, 12 loses a link, 13 would but goes already, 14 stays.
                "INSERT INTO line VALUES (10, 1, 1, NULL), (11, NULL, 1, NULL), (12, 2, 2, 1), (13, 1, NULL, 1),"
                        + " (14, 2, NULL, NULL)");

        Receipt receipt =
                bench.vacancy().execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();

        assertThat(lines(receipt.effects()))
                .containsExactly(
                        "delete boat 1",
                        "delete crate 1 crate.boat_id",
                        "delete line 2 line.boat_id",
                        "delete line 1 line.crate_id",
                        "set-null line 1 line.second_boat_id");
        assertThat(receipt.totals().get(Action.DELETE)).isEqualTo(5);
        assertThat(bench.count("line")).isEqualTo(2);
        assertThat(bench.count("line WHERE second_boat_id IS NULL")).isEqualTo(2);
    }

    @OnEveryEngine
    void treesAndCirclesOfTablesGoWhole(Engine engine) {
        Bench bench = Bench.harbour(engine);
        bench.database()
                .run(
                        "DELETE FROM fee",
                        "DELETE FROM power_reading",
                        "DELETE FROM mooring",
                        "DELETE FROM berth_contract");

        Receipt receipt = bench.vacancy()
                .execute(Request.delete("pier").keys(1, 2).expect(2))
                .receiptOrThrow();

        assertThat(lines(receipt.effects()))
                .containsExactly(
                        "delete pier 2",
                        "delete berth 7 berth.pier_id",
                        "delete berth_service 5 berth_service.berth_id");
        assertThat(bench.count("berth")).isEqualTo(2);
    }

    @OnEveryEngine
    void rowsThatHangOnOneAnotherGoDownToTheLast(Engine engine) {
        Bench bench = Bench.harbour(engine);
        StringBuilder chain =
                new StringBuilder("INSERT INTO logbook_entry VALUES (1000, 7, 11, NULL, '2026-01-01 00:00:00', 'x')");
        for (int id = 1001; id < 1040; id++) {
            chain.append(", (" + id + ", 7, 11, " + (id - 1) + ", '2026-01-01 00:00:00', 'x')");
        }
        bench.database().run(chain.toString(), "UPDATE logbook_entry SET answers = 1000 WHERE id = 1000");

        Receipt receipt = bench.vacancy()
                .execute(Request.delete("logbook_entry").key(1000).expect(1))
                .receiptOrThrow();

        assertThat(lines(receipt.effects()))
                .containsExactly("delete logbook_entry 1", "delete logbook_entry 39 logbook_entry.answers");
        assertThat(bench.count("logbook_entry")).isEqualTo(7);
    }

    @OnEveryEngine
    void manyKeysGoThroughTheDatabaseAndLeaveNothingBehind(Engine engine) {
        Bench bench = Bench.harbour(engine);
        int many = 2_500;
        StringBuilder boats = new StringBuilder("INSERT INTO boat VALUES ");
        StringBuilder moorings = new StringBuilder("INSERT INTO mooring VALUES ");
        for (int i = 0; i < many; i++) {
            boats.append(i == 0 ? "" : ", ")
                    .append("(" + (10_000 + i) + ", 7, 4, NULL, 'B', 'R" + i + "', NULL, NULL, NULL)");
            moorings.append(i == 0 ? "" : ", ")
                    .append("(" + (10_000 + i) + ", 7, " + (10_000 + i) + ", 101, '2026-01-01', NULL)");
        }
        bench.database().run(boats.toString(), moorings.toString());
        List<Long> keys = LongStream.range(10_000, 10_000 + many + 7).boxed().toList();

        Preview preview = bench.vacancy().preview(Request.delete("boat").keys(keys));
        Outcome outcome = bench.vacancy().execute(preview, preview.question().answer("yes"));

        assertThat(preview.missing().rows()).isEqualTo(7);
        assertThat(lines(outcome.receiptOrThrow().effects()))
                .containsExactly("delete boat " + many, "delete mooring " + many + " mooring.boat_id");
        assertThat(outcome.receiptOrThrow().records()).isEmpty();
        assertThat(bench.count("boat")).isEqualTo(8);
        assertThat(bench.count("mooring")).isEqualTo(8);
    }

    static List<String> lines(List<Effect> effects) {
        return effects.stream()
                .map(effect -> effect.action().word() + " " + effect.table() + " " + effect.rows()
                        + (effect.relation() == null ? "" : " " + effect.relation()))
                .toList();
    }
}
