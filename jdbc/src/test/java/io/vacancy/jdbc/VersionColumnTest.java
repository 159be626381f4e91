// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.RuleBookException;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Whoever has read a row before it was marked, brought back or moved cannot write it back unnoticed. */
class VersionColumnTest {

    private static final RuleBook RULES = RuleBook.build(book -> book.table(
                    "boat",
                    t -> t.marker(Marker.date("left_on")).version("version").auditColumns("changed_by", null))
            .table("mooring", t -> t.version("version"))
            .table("inspection", t -> t.version("seen").stampsParent("inspection.boat_id"))
            .relation("mooring.boat_id", Rule.setNull())
            .whenSoftDeleted("mooring.boat_id", Rule.setNull())
            .relation("inspection.boat_id", Rule.cascade())
            .whenSoftDeleted("inspection.boat_id", Rule.leave()));

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20), left_on DATE, version INTEGER,"
                        + " changed_by VARCHAR(40))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, version BIGINT NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE inspection (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, seen TIMESTAMP NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "INSERT INTO boat VALUES (1, 'Osprey', NULL, 4, NULL), (2, 'Heron', NULL, NULL, NULL)",
                "INSERT INTO mooring VALUES (11, 1, 0), (12, 2, 7)",
                "INSERT INTO inspection VALUES (21, 1, NULL)");
        Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .open()
                .archive()
                .setUp();
        return bench;
    }

    private static long version(Bench bench, String what) {
        return bench.database().number("SELECT version FROM " + what);
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void isRaisedByWhateverChangesARow(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RULES)
                .actor(() -> "Mira Holm")
                .open();

        ReceiptId marked = vacancy.execute(Request.softDelete("boat").key(1).withoutConfirmation("sold"))
                .receiptOrThrow()
                .id();
        assertThat(version(bench, "boat WHERE id = 1")).isEqualTo(5);
        assertThat(version(bench, "mooring WHERE id = 11")).isEqualTo(1);
        assertThat(version(bench, "mooring WHERE id = 12")).isEqualTo(7);
        // What somebody has read before is not written back.
        assertThat(bench.database().count("boat WHERE id = 1 AND version = 4")).isZero();

        vacancy.execute(Request.restore(marked).withoutConfirmation("a mistake"))
                .receiptOrThrow();
        assertThat(version(bench, "boat WHERE id = 1 AND left_on IS NULL")).isEqualTo(6);
        assertThat(version(bench, "mooring WHERE id = 11 AND boat_id = 1")).isEqualTo(2);

        vacancy.execute(Request.softDelete("boat").key(2).withoutConfirmation("sold"))
                .receiptOrThrow();
        assertThat(version(bench, "boat WHERE id = 2")).isEqualTo(1);

        // The stamps of the parent, and a time as a version.
        vacancy.execute(Request.erase("inspection").key(21).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(version(bench, "boat WHERE id = 1")).isEqualTo(7);
        bench.database().drop();
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void aTimeIsSetToNowAndALinkThatMovesCountsToo(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book -> book.table("mooring", t -> t.version("version"))
                        .table("inspection", t -> t.version("seen"))
                        .relation("mooring.boat_id", Rule.reassignTo(2))
                        .relation("inspection.boat_id", Rule.setNull())))
                .actor(() -> "Mira Holm")
                .open();

        vacancy.execute(Request.erase("boat").key(1).withoutConfirmation("sold"))
                .receiptOrThrow();

        assertThat(version(bench, "mooring WHERE id = 11 AND boat_id = 2")).isEqualTo(1);
        assertThat(bench.database().count("inspection WHERE seen IS NOT NULL")).isEqualTo(1);
        bench.database().drop();
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatCountsNothingIsNoVersion(Engine engine) {
        Bench bench = bench(engine);
        assertThatThrownBy(() -> Vacancy.on(JdbcStore.of(bench.database().source()))
                        .rules(RuleBook.build(book -> book.table("boat", t -> t.version("name"))))
                        .actor(() -> "Mira Holm")
                        .open())
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("Column name of boat holds ")
                .hasMessageContaining("cannot count the versions of a row");
        bench.database().drop();
    }
}
