// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.RowObjects;
import io.vacancy.json.RowObjectsDelivery;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Files and the like follow their rows after the commit. */
class RowObjectsTest {

    private static final class Told implements RowObjects {

        private final List<String> told = new ArrayList<>();
        private boolean fails;

        @Override
        public void hide(String table, Key key) {
            tell("hide " + table + " " + key);
        }

        @Override
        public void show(String table, Key key) {
            tell("show " + table + " " + key);
        }

        @Override
        public void remove(String table, Key key) {
            tell("remove " + table + " " + key);
        }

        private void tell(String what) {
            if (fails) {
                fails = false;
                throw new IllegalStateException("the disk is away");
            }
            told.add(what);
        }

        List<String> since() {
            List<String> since = List.copyOf(told);
            told.clear();
            return since;
        }
    }

    private static Bench bench(Engine engine) {
        return Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, left_on DATE)",
                "CREATE TABLE photo (boat_id INTEGER NOT NULL, no INTEGER NOT NULL, PRIMARY KEY (boat_id, no),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1, NULL), (2, NULL), (3, NULL)",
                "INSERT INTO photo VALUES (1, 1), (1, 2), (2, 1)");
    }

    private static Vacancy open(Bench bench, int keysInTrail, String further) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(
                        "version: 1\noutbox: /harbour/office\ntables:\n  boat: {marker: {date: left_on}" + further
                                + "}\nrelations:\n  photo.boat_id: {rules: cascade, soft-delete: leave}\n",
                        "rules"))
                .actor(() -> "Mira Holm")
                .keysInTrail(keysInTrail)
                .open();
        vacancy.archive().setUp();
        return vacancy;
    }

    private static Receipt done(Vacancy vacancy, Request request) {
        return vacancy.execute(request.withoutConfirmation("a test")).receiptOrThrow();
    }

    @OnEveryEngine
    void objectsAreKeptAsLongAsTheirRowMayComeBack(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = open(bench, 100, "");
        Told told = new Told();
        RowObjectsDelivery delivery = new RowObjectsDelivery(vacancy, Map.of("boat", told, "PHOTO", told));

        Receipt erased = done(vacancy, Request.erase("boat").key(1));
        delivery.deliver(100);
        assertThat(told.since())
                .containsExactlyInAnyOrder("hide boat 1", "hide photo boat_id=1,no=1", "hide photo boat_id=1,no=2");

        done(vacancy, Request.restore(erased.id()));
        delivery.deliver(100);
        assertThat(told.since())
                .containsExactlyInAnyOrder("show boat 1", "show photo boat_id=1,no=1", "show photo boat_id=1,no=2");

        done(vacancy, Request.softDelete("boat").key(2));
        delivery.deliver(100);
        assertThat(told.since()).containsExactly("hide boat 2");

        Receipt gone = done(vacancy, Request.erase("boat").key(2).includingMarked());
        done(vacancy, Request.purge(gone.id()));
        delivery.deliver(100);
        // By then both events find it gone.
        assertThat(told.since())
                .contains("remove boat 2", "remove photo boat_id=2,no=1")
                .doesNotContain("hide boat 2");

        done(vacancy, Request.erase("boat").key(3).withoutArchive());
        assertThat(delivery.deliver(100)).isEqualTo(1);
        assertThat(told.since()).containsExactly("remove boat 3");
        assertThat(delivery.deliver(100)).isZero();
    }

    @OnEveryEngine
    void whatCameBackOrHasTheKeyAgainLosesNothing(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = open(bench, 100, "");
        Told told = new Told();
        RowObjectsDelivery delivery = new RowObjectsDelivery(vacancy, Map.of("boat", told));

        Receipt erased = done(vacancy, Request.erase("boat").key(1));
        done(vacancy, Request.restore(erased.id()));
        done(vacancy, Request.purge(erased.id()));
        done(vacancy, Request.erase("boat").key(3).withoutArchive());
        bench.database().run("INSERT INTO boat VALUES (3, NULL)");
        delivery.deliver(100);

        assertThat(told.since()).containsOnly("show boat 1", "show boat 3");
    }

    @OnEveryEngine
    void whatFailsComesAgain(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = open(bench, 100, "");
        Told told = new Told();
        RowObjectsDelivery delivery = new RowObjectsDelivery(vacancy, Map.of("boat", told));
        done(vacancy, Request.erase("boat").key(3).withoutArchive());

        told.fails = true;
        assertThatThrownBy(() -> delivery.deliver(100)).hasMessage("the disk is away");
        assertThat(delivery.deliver(100)).isEqualTo(1);

        assertThat(told.since()).containsExactly("remove boat 3");
    }

    @OnEveryEngine
    void rowsThatAnEventDoesNotNameAreNotPassedBy(Engine engine) {
        Bench bench = bench(engine);
        Vacancy few = open(bench, 1, "");
        RowObjectsDelivery delivery = new RowObjectsDelivery(few, Map.of("boat", new Told()));
        done(few, Request.erase("boat").keys(1, 2).withoutArchive());
        assertThatThrownBy(() -> delivery.deliver(100))
                .isInstanceOf(MisuseException.class)
                .hasMessage("The event does not name the 2 rows of boat that it is about.");

        List<String> looked = new ArrayList<>();
        RowObjects looking = new RowObjects() {
            @Override
            public void remove(String table, Key key) {
                looked.add("remove " + key);
            }

            @Override
            public void unnamed(String table, long rows) {
                looked.add(rows + " of " + table);
            }
        };
        assertThat(new RowObjectsDelivery(few, Map.of("boat", looking)).deliver(100))
                .isEqualTo(1);
        Vacancy personal = open(bench, 100, ", personal: [id]");
        done(personal, Request.erase("boat").key(3).withoutArchive());
        new RowObjectsDelivery(personal, Map.of("boat", looking)).deliver(100);
        assertThat(looked).containsExactly("2 of boat", "1 of boat");
        assertThatThrownBy(() -> new RowObjectsDelivery(few, Map.of("boot", looking)))
                .hasMessageContaining("did you mean boat?");
    }

    @OnEveryEngine
    void ofATableThatIsDroppedAllIsToBeFound(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = bench.with("version: 1\noutbox: /harbour/office\n");
        vacancy.archive().setUp();
        List<String> looked = new ArrayList<>();
        RowObjects looking = new RowObjects() {
            @Override
            public void remove(String table, Key key) {
                looked.add("remove " + key);
            }

            @Override
            public void unnamed(String table, long rows) {
                looked.add(rows + " of " + table);
            }
        };
        RowObjectsDelivery delivery = new RowObjectsDelivery(vacancy, Map.of("photo", looking, "boat", looking));
        Bench.done(vacancy, Request.dropColumn("boat", "left_on"));
        Bench.done(
                vacancy, Request.erase("photo").where(column("no").equalTo(2)).withoutArchive());
        Bench.done(vacancy, Request.drop("photo"));

        delivery.deliver(100);

        // An event that comes once the table is gone tells of nothing that could be looked up.
        assertThat(looked).containsExactly("1 of photo", "2 of photo");
    }
}
