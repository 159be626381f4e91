// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import static io.vacancy.jpa.AttributeRef.attribute;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.jpa.Harbour.Berth;
import io.vacancy.jpa.Harbour.BerthId;
import io.vacancy.jpa.Harbour.Boat;
import io.vacancy.jpa.Harbour.Buoy;
import io.vacancy.jpa.Harbour.Fee;
import io.vacancy.jpa.Harbour.Mooring;
import io.vacancy.jpa.Harbour.Reading;
import io.vacancy.jpa.Harbour.ReadingId;
import io.vacancy.jpa.Harbour.Skipper;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import jakarta.persistence.EntityManager;
import jakarta.persistence.OptimisticLockException;
import java.util.List;
import java.util.UUID;
import org.hibernate.Hibernate;
import org.hibernate.Session;
import org.hibernate.stat.Statistics;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class EntityTransactionsTest {

    private static final String ENGINES = "io.vacancy.engines.Engine#all";

    private static Request boat(Harbour harbour, long id) {
        return harbour.entities.delete(Boat.class).key(id).because("sold").withoutConfirmation("a test");
    }

    private static Request erased(Harbour harbour, Class<?> entity, Object id) {
        return harbour.entities.erase(entity).key(id).withoutConfirmation("a test");
    }

    /** Else a child that is inserted at the end refers to a boat that is gone, or is missing from the preview. */
    @ParameterizedTest
    @MethodSource(ENGINES)
    void whatTheManagerKeepsBackIsWrittenBefore(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Mooring third = new Mooring();
                third.id = 13L;
                third.boat = manager.find(Boat.class, 1L);
                manager.persist(third);
                assertThat(harbour.vacancy
                                .preview(harbour.entities.erase(Boat.class).key(1L))
                                .impact()
                                .effects())
                        .anySatisfy(effect -> {
                            assertThat(effect.table().name()).isEqualToIgnoringCase("mooring");
                            assertThat(effect.rows()).isEqualTo(3);
                        });
                harbour.vacancy.execute(erased(harbour, Boat.class, 1L)).receiptOrThrow();
            });
            harbour.with(manager -> assertThat(moorings(manager)).containsExactly(21L, 22L));
        }
    }

    private static List<Long> moorings(EntityManager manager) {
        return manager.createQuery("select m.id from Mooring m order by m.id", Long.class)
                .getResultList();
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void aManagedEntityThatIsChangedAfterwardsDoesNotUndoTheDeletion(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                Boat heron = manager.find(Boat.class, 2L);
                long before = osprey.revision;
                harbour.vacancy.execute(boat(harbour, 1)).receiptOrThrow();

                assertThat(osprey.leftOn).isNotNull();
                assertThat(osprey.leftBy).isEqualTo("Mira Holm");
                assertThat(osprey.leftWhy).isEqualTo("sold");
                assertThat(osprey.changedBy).isEqualTo("Mira Holm");
                assertThat(osprey.revision).isEqualTo(before + 1);
                assertThat(manager.contains(osprey)).isTrue();
                osprey.name = "Sea Osprey";
                heron.name = "Grey Heron";
            });
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                assertThat(osprey.leftOn).isNotNull();
                assertThat(osprey.name).isEqualTo("Sea Osprey");
                assertThat(manager.find(Boat.class, 2L).name).isEqualTo("Grey Heron");
            });
        }
    }

    /** Without the version, the merge would undo the soft delete and leave no trace. */
    @ParameterizedTest
    @MethodSource(ENGINES)
    void aStaleDetachedEntityIsNotWrittenBack(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            Boat known = harbour.in(manager -> manager.find(Boat.class, 1L));
            harbour.vacancy.execute(boat(harbour, 1)).receiptOrThrow();
            known.name = "Sea Osprey";

            assertThatThrownBy(() -> harbour.with(manager -> manager.merge(known)))
                    .satisfies(failed -> assertThat(failed instanceof OptimisticLockException
                                    || failed.getCause() instanceof OptimisticLockException)
                            .isTrue());
            harbour.with(
                    manager -> assertThat(manager.find(Boat.class, 1L).leftOn).isNotNull());
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void whatIsGoneIsDetachedAndLeavesTheCollectionsItWasIn(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                Boat heron = manager.find(Boat.class, 2L);
                Hibernate.initialize(osprey.moorings);
                Hibernate.initialize(heron.moorings);
                List<Mooring> others = heron.moorings;
                Mooring gone = manager.find(Mooring.class, 11L);
                harbour.vacancy.execute(erased(harbour, Mooring.class, 11L)).receiptOrThrow();

                assertThat(manager.contains(gone)).isFalse();
                assertThat(Hibernate.isInitialized(osprey.moorings)).isTrue();
                assertThat(osprey.moorings).extracting(mooring -> mooring.id).containsExactly(12L);
                assertThat(manager.contains(osprey)).isTrue();
                // What was not affected is not touched.
                assertThat(heron.moorings).isSameAs(others);
                osprey.name = "Sea Osprey";
            });
            // Cascading persists, and the removal of orphans, found nothing to bring back.
            harbour.with(manager -> {
                assertThat(moorings(manager)).containsExactly(12L, 21L, 22L);
                assertThat(manager.find(Boat.class, 1L).name).isEqualTo("Sea Osprey");
            });
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void identifiersOfSeveralColumnsAreCompared(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Berth west = new Berth();
                west.id = new BerthId("West", 3);
                manager.persist(west);
                Berth east = new Berth();
                east.id = new BerthId("East", 3);
                manager.persist(east);
                Reading reading = new Reading();
                reading.meter = 5L;
                reading.hour = 7;
                manager.persist(reading);
                Outcome one = harbour.vacancy.execute(erased(harbour, Berth.class, west.id));
                Outcome two = harbour.vacancy.execute(erased(harbour, Reading.class, new ReadingId(5L, 7)));

                assertThat(List.of(one, two)).allSatisfy(outcome -> assertThat(((Outcome.Done) outcome).warnings())
                        .isEmpty());
                assertThat(manager.contains(west)).isFalse();
                assertThat(manager.contains(east)).isTrue();
                assertThat(manager.contains(reading)).isFalse();
            });
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void whatTheEntityItselfHidesOnceItIsMarkedIsGoneForItsManager(Engine engine) {
        try (Harbour harbour = new Harbour(engine)) {
            harbour.with(manager -> {
                Buoy buoy = new Buoy();
                buoy.id = 1L;
                manager.persist(buoy);
                ReceiptId receipt = harbour.vacancy
                        .execute(
                                harbour.entities.delete(Buoy.class).entity(buoy).withoutConfirmation("adrift"))
                        .receiptOrThrow()
                        .id();
                assertThat(manager.contains(buoy)).isFalse();
                assertThat(manager.find(Buoy.class, 1L)).isNull();
                harbour.vacancy
                        .execute(Request.restore(receipt).withoutConfirmation("found"))
                        .receiptOrThrow();
                assertThat(manager.find(Buoy.class, 1L).revision).isEqualTo(2);
            });
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void linksOfJoinTablesLeaveTheCollectionsThatWereRead(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Skipper mate = new Skipper();
                mate.id = 2L;
                manager.persist(mate);
                Boat osprey = manager.find(Boat.class, 1L);
                osprey.crew.add(mate);
                Hibernate.initialize(osprey.tags);
                manager.flush();
                Outcome outcome = harbour.vacancy.execute(erased(harbour, Skipper.class, 2L));

                assertThat(((Outcome.Done) outcome).warnings()).isEmpty();
                assertThat(osprey.crew).extracting(skipper -> skipper.id).containsExactly(1L);
                assertThat(osprey.tags).hasSize(2);
            });
            harbour.with(
                    manager -> assertThat(manager.find(Boat.class, 1L).crew).hasSize(1));
        }
    }

    /** The owner of a collection that has other elements now is refreshed itself, since it bears the stamps of its children. */
    @Test
    void anOwnerThatChangesWithItsCollectionStaysManaged() {
        RuleBook stamps = RuleBook.build(book -> book.table("mooring", t -> t.stampsParent("mooring.boat_id")));
        try (Harbour harbour = new Harbour(Engine.H2.fresh(), stamps).filled()) {
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                Hibernate.initialize(osprey.moorings);
                long before = osprey.revision;
                Outcome outcome = harbour.vacancy.execute(erased(harbour, Mooring.class, 11L));

                assertThat(((Outcome.Done) outcome).warnings()).isEmpty();
                assertThat(osprey.revision).isEqualTo(before + 1);
                assertThat(osprey.changedBy).isEqualTo("Mira Holm");
                assertThat(manager.contains(osprey)).isTrue();
                assertThat(Hibernate.isInitialized(osprey.moorings)).isTrue();
                assertThat(osprey.moorings).hasSize(1);
                osprey.name = "Sea Osprey";
            });
            harbour.with(
                    manager -> assertThat(manager.find(Boat.class, 1L).name).isEqualTo("Sea Osprey"));
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void childrenThatGetAnotherParentAreInItsCollection(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Skipper other = new Skipper();
                other.id = 2L;
                manager.persist(other);
                Skipper una = manager.find(Skipper.class, 1L);
                Hibernate.initialize(other.boats);
                Boat osprey = manager.find(Boat.class, 1L);
                osprey.crew.clear();
                manager.find(Boat.class, 2L).crew.clear();
                manager.flush();
                manager.refresh(other);
                Hibernate.initialize(other.boats);
                harbour.vacancy
                        .execute(harbour.entities
                                .erase(Skipper.class)
                                .key(1L)
                                .reassign("boat.owner_id", 2)
                                .withoutConfirmation("a test"))
                        .receiptOrThrow();

                assertThat(manager.contains(una)).isFalse();
                assertThat(osprey.owner).isSameAs(other);
                assertThat(other.boats).hasSize(2);
            });
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void anOuterRollbackTakesItBack(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            assertThatThrownBy(() -> harbour.with(manager -> {
                        Outcome outcome = harbour.vacancy.execute(boat(harbour, 1));
                        assertThat(outcome).isInstanceOf(Outcome.Done.class);
                        throw new IllegalStateException("the rest failed");
                    }))
                    .hasMessage("the rest failed");
            harbour.with(
                    manager -> assertThat(manager.find(Boat.class, 1L).leftOn).isNull());
            assertThat(harbour.vacancy.history().page(10).entries()).isEmpty();
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void nothingIsTouchedWhereNothingWasDone(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Fee fee = new Fee();
                fee.id = UUID.randomUUID();
                fee.paid = false;
                fee.mooring = manager.find(Mooring.class, 11L);
                manager.persist(fee);
                Boat osprey = manager.find(Boat.class, 1L);
                assertThat(harbour.vacancy.execute(erased(harbour, Boat.class, 1L)))
                        .isInstanceOf(Outcome.Blocked.class);
                assertThat(manager.contains(osprey)).isTrue();
                assertThat(manager.contains(fee)).isTrue();
                osprey.name = "Sea Osprey";
            });
            harbour.with(
                    manager -> assertThat(manager.find(Boat.class, 1L).name).isEqualTo("Sea Osprey"));
        }
    }

    @ParameterizedTest
    @MethodSource(ENGINES)
    void whatComesBackIsThereAtOnce(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                Hibernate.initialize(osprey.moorings);
                ReceiptId mooring = harbour.vacancy
                        .execute(erased(harbour, Mooring.class, 11L))
                        .receiptOrThrow()
                        .id();
                ReceiptId marked = harbour.vacancy
                        .execute(boat(harbour, 1))
                        .receiptOrThrow()
                        .id();
                assertThat(osprey.moorings).hasSize(1);
                for (ReceiptId back : List.of(marked, mooring)) {
                    harbour.vacancy
                            .execute(Request.restore(back).withoutConfirmation("a test"))
                            .receiptOrThrow();
                }
                assertThat(osprey.leftOn).isNull();
                assertThat(osprey.moorings).hasSize(2);
            });
        }
    }

    /** Queries of either kind, and what all managers share, tell of rows as they are. */
    @ParameterizedTest
    @MethodSource(ENGINES)
    void cachesForgetWhatIsGone(Engine engine) {
        try (Harbour harbour = new Harbour(engine).filled()) {
            harbour.with(EntityTransactionsTest::readAll);
            harbour.with(manager -> {
                harbour.vacancy.execute(erased(harbour, Boat.class, 1L)).receiptOrThrow();
                assertThat(manager.find(Boat.class, 1L)).isNull();
                assertThat(readAll(manager)).isOne();
                assertThat(manager.createNativeQuery("SELECT COUNT(*) FROM " + harbour.entities.table(Mooring.class))
                                .getSingleResult())
                        .hasToString("2");
            });
            harbour.with(manager -> {
                assertThat(manager.find(Boat.class, 1L)).isNull();
                assertThat(readAll(manager)).isOne();
            });
            // Beside any manager, too.
            harbour.with(EntityTransactionsTest::readAll);
            harbour.vacancy.execute(boat(harbour, 2)).receiptOrThrow();
            harbour.with(
                    manager -> assertThat(manager.find(Boat.class, 2L).leftOn).isNotNull());
        }
    }

    private static int readAll(EntityManager manager) {
        manager.find(Boat.class, 1L);
        manager.find(Boat.class, 2L);
        return manager.createQuery("select b from Boat b", Boat.class)
                .setHint("org.hibernate.cacheable", true)
                .getResultList()
                .size();
    }

    /** A page that is rendered after the transaction reads through the same manager. */
    @Test
    void aManagerWithoutATransactionSeesWhatAnotherOneDid() {
        try (Harbour harbour = new Harbour(Engine.H2).filled()) {
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                manager.getTransaction().commit();
                harbour.vacancy.execute(boat(harbour, 1)).receiptOrThrow();
                assertThat(osprey.leftOn).isNotNull();
                manager.getTransaction().begin();
            });
        }
    }

    /** What is done beside the manager's transaction is compared with what it remembers, too. */
    @Test
    void separateWorkIsSeen() {
        try (Harbour harbour = new Harbour(Engine.H2).filled()) {
            harbour.with(manager -> {
                Boat osprey = manager.find(Boat.class, 1L);
                harbour.vacancy.separately().execute(boat(harbour, 1)).receiptOrThrow();
                assertThat(osprey.leftOn).isNotNull();
            });
        }
    }

    @Test
    void thousandsOfManagedEntitiesAreComparedInAFewQueries() {
        try (Harbour harbour = new Harbour(Engine.H2).filled()) {
            harbour.with(manager -> {
                for (long id = 100; id < 2_100; id++) {
                    Boat boat = new Boat();
                    boat.id = id;
                    manager.persist(boat);
                }
                manager.flush();
                Statistics statistics =
                        manager.unwrap(Session.class).getSessionFactory().getStatistics();
                statistics.setStatisticsEnabled(true);
                harbour.vacancy
                        .execute(harbour.entities
                                .erase(Boat.class)
                                .where(attribute(Boat.class, "id").atLeast(1_100L))
                                .withoutConfirmation("a test"))
                        .receiptOrThrow();
                assertThat(statistics.getPrepareStatementCount()).isLessThan(15);
                assertThat(manager.unwrap(Session.class).getStatistics().getEntityCount())
                        .isEqualTo(1_000);
            });
        }
    }
}
