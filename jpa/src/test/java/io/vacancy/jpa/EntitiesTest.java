// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import static io.vacancy.jpa.AttributeRef.attribute;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jpa.Harbour.Berth;
import io.vacancy.jpa.Harbour.BerthId;
import io.vacancy.jpa.Harbour.Boat;
import io.vacancy.jpa.Harbour.Fee;
import io.vacancy.jpa.Harbour.Mooring;
import io.vacancy.jpa.Harbour.Place;
import io.vacancy.jpa.Harbour.Reading;
import io.vacancy.jpa.Harbour.ReadingId;
import io.vacancy.jpa.Harbour.Repair;
import io.vacancy.jpa.Harbour.SailYard;
import io.vacancy.jpa.Harbour.State;
import io.vacancy.jpa.Harbour.WorkOrder;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityManagerFactory;
import jakarta.persistence.Id;
import jakarta.persistence.Inheritance;
import jakarta.persistence.InheritanceType;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.hibernate.Version;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class EntitiesTest {

    private static long erased(Harbour harbour, Request request) {
        Outcome outcome = harbour.vacancy.execute(request.withoutConfirmation("a test"));
        return outcome instanceof Outcome.Nothing ? 0 : outcome.receiptOrThrow().rows();
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void namesAndValuesComeFromTheMapping(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            UUID fee = UUID.randomUUID();
            harbour.with(manager -> {
                Berth berth = new Berth();
                berth.id = new BerthId("West", 3);
                manager.persist(berth);
                Reading reading = new Reading();
                reading.meter = 5L;
                reading.hour = 7;
                manager.persist(reading);
                manager.find(Mooring.class, 11L).berth = berth;
                Fee owed = new Fee();
                owed.id = fee;
                owed.paid = true;
                owed.mooring = manager.find(Mooring.class, 12L);
                manager.persist(owed);
                WorkOrder order = new WorkOrder();
                order.id = 1L;
                order.group = "hull";
                manager.persist(order);
                Repair repair = new Repair();
                repair.id = 2L;
                repair.group = "hull";
                manager.persist(repair);
            });
            Entities entities = harbour.entities;
            Boat osprey = new Boat();
            osprey.id = 1L;

            // Embedded ids, id classes, references to entities, converters, enumerations, embeddables.
            assertThat(selected(harbour, entities.delete(Berth.class).key(new BerthId("West", 3))))
                    .isOne();
            assertThat(selected(harbour, entities.delete(Berth.class).key(new BerthId("East", 3))))
                    .isZero();
            assertThat(selected(
                            harbour,
                            entities.delete(Mooring.class)
                                    .where(AttributeRef.attribute(Mooring.class, "boat")
                                            .equalTo(osprey))))
                    .isEqualTo(2);
            assertThat(selected(
                            harbour,
                            entities.delete(Mooring.class)
                                    .where(attribute(Mooring.class, "berth").isNull())))
                    .isEqualTo(3);
            assertThat(selected(
                            harbour,
                            entities.delete(Fee.class)
                                    .where(attribute(Fee.class, "paid").equalTo(true))))
                    .isOne();
            assertThat(selected(harbour, entities.delete(Fee.class).key(fee))).isOne();
            assertThat(selected(
                            harbour,
                            entities.delete(Boat.class)
                                    .where(attribute(Boat.class, "state").in(List.of(State.AFLOAT)))))
                    .isEqualTo(2);
            assertThat(selected(
                            harbour,
                            entities.delete(Boat.class)
                                    .where(attribute(Boat.class, "place.row")
                                            .equalTo("C")
                                            .and(attribute(Boat.class, "place.number")
                                                    .greaterThan(1)))))
                    .isOne();
            assertThat(selected(harbour, entities.delete(Boat.class).matching(attribute(Boat.class, "name"), "Heron")))
                    .isOne();
            assertThat(selected(
                            harbour,
                            entities.delete(Boat.class)
                                    .where(attribute(Boat.class, "name")
                                            .like("Os%")
                                            .not())))
                    .isOne();

            assertThat(erased(harbour, entities.erase(Reading.class).key(new ReadingId(5L, 7))))
                    .isOne();
            // Of a table that classes share, only rows of the class that is named.
            assertThat(erased(harbour, entities.erase(Repair.class).key(1L))).isZero();
            assertThat(erased(harbour, entities.erase(Repair.class).everyRow())).isOne();
            assertThat(erased(
                            harbour,
                            entities.erase(WorkOrder.class)
                                    .where(attribute(WorkOrder.class, "group").equalTo("hull"))))
                    .isOne();
            // What has no life of its own is deleted with its owner.
            assertThat(erased(harbour, entities.erase(Boat.class).keys(List.of(1L, 2L))))
                    .isEqualTo(2);
            harbour.with(manager -> assertThat(manager.createQuery("select count(m) from Mooring m", Long.class)
                            .getSingleResult())
                    .isZero());
        }
    }

    private static long selected(Harbour harbour, Request request) {
        try (Stream<Row> rows = harbour.vacancy.rows(request)) {
            return rows.count();
        }
    }

    @Test
    void anObjectStandsForItsRowOnlyWhileNobodyChangedIt() {
        try (Harbour harbour = new Harbour(Engine.H2).filled()) {
            Boat known = harbour.in(manager -> manager.find(Boat.class, 1L));
            harbour.with(manager -> manager.find(Boat.class, 1L).name = "Sea Osprey");

            assertThat(erased(harbour, harbour.entities.erase(Boat.class).entity(known)))
                    .isZero();
            Boat now = harbour.in(manager -> manager.find(Boat.class, 1L));
            assertThat(erased(harbour, harbour.entities.erase(Boat.class).entity(now)))
                    .isOne();
        }
    }

    @Test
    void whatCannotBeMeantIsRefusedWithAWayOut() {
        try (Harbour harbour = new Harbour(Engine.H2).filled()) {
            Entities entities = harbour.entities;
            assertThatThrownBy(() -> entities.delete(String.class))
                    .isInstanceOf(MisuseException.class)
                    .hasMessage("Class java.lang.String is no entity of this persistence unit.");
            assertThatThrownBy(() -> entities.delete(Boat.class).key("1"))
                    .hasMessage("The identifier of Boat is a Long, and String was given.");
            assertThatThrownBy(() -> entities.delete(Boat.class)
                            .where(attribute(Boat.class, "nam").equalTo("Osprey")))
                    .isInstanceOf(MisuseException.class)
                    .hasMessage("Entity Boat has no attribute nam.");
            assertThatThrownBy(() -> entities.delete(Boat.class)
                            .where(attribute(Boat.class, "state").equalTo("AFLOAT")))
                    .isInstanceOf(MisuseException.class);
            assertThatThrownBy(() -> entities.delete(SailYard.class))
                    .hasMessage("No column of Yard tells which rows are of class SailYard.");
            assertThatThrownBy(() -> entities.delete(Boat.class)
                            .where(attribute(Boat.class, "place").lessThan(new Place())))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("has no order");
            assertThatThrownBy(() -> entities.delete(Boat.class).key(null)).isInstanceOf(NullPointerException.class);
            assertThatThrownBy(() -> entities.delete(Boat.class).entity(new Boat()))
                    .hasMessage("The object has no identifier, so there is no row that it stands for.");
        }
    }

    @Entity(name = "Vessel")
    @Inheritance(strategy = InheritanceType.TABLE_PER_CLASS)
    abstract static class Vessel {
        @Id
        Long id;
    }

    @Entity(name = "Dinghy")
    static class Dinghy extends Vessel {
        String name;
    }

    @Entity(name = "Barge")
    static class Barge extends Vessel {
        String name;
    }

    /** Each class has a table, and the one above has none. */
    @Test
    void subclassesWithATableEachAreNamedByClass() {
        Database database = Engine.H2.fresh();
        try (EntityManagerFactory factory =
                Harbour.factory(database, List.of(Vessel.class, Dinghy.class, Barge.class))) {
            Entities entities = Entities.of(factory);
            assertThat(entities.table(Dinghy.class)).isEqualToIgnoringCase("dinghy");
            assertThatThrownBy(() -> entities.delete(Vessel.class))
                    .isInstanceOf(MisuseException.class)
                    .hasMessage("Entity Vessel has no table of its own: each of its subclasses has one.");
            database.run("INSERT INTO dinghy (id, name) VALUES (1, 'Teal')", "INSERT INTO barge (id) VALUES (2)");
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open();
            assertThat(vacancy.execute(entities.erase(Dinghy.class)
                                    .where(attribute(Dinghy.class, "name").equalTo("Teal"))
                                    .withoutConfirmation("a test"))
                            .receiptOrThrow()
                            .rows())
                    .isOne();
            assertThat(database.count("barge")).isOne();
        } finally {
            database.drop();
        }
    }

    /** The build runs these tests on two lines of Hibernate. */
    @Test
    void runsOnTheHibernateThatItSays() {
        String wanted = System.getProperty("vacancy.hibernate");
        if (wanted != null) {
            assertThat(Version.getVersionString()).isEqualTo(wanted);
        }
    }
}
