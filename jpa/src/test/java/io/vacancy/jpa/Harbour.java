// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jpa.rules.ChangedBy;
import io.vacancy.jpa.rules.ChildRule;
import io.vacancy.jpa.rules.DeletedBecause;
import io.vacancy.jpa.rules.DeletedBy;
import io.vacancy.jpa.rules.DeletionMarker;
import io.vacancy.jpa.rules.DeletionRules;
import io.vacancy.jpa.rules.EntityRules;
import io.vacancy.jpa.rules.Personal;
import io.vacancy.jpa.rules.Then;
import io.vacancy.jpa.transaction.EntityTransactions;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.TimeEncoding;
import jakarta.persistence.Cacheable;
import jakarta.persistence.CascadeType;
import jakarta.persistence.Column;
import jakarta.persistence.Convert;
import jakarta.persistence.DiscriminatorValue;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Embedded;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityManager;
import jakarta.persistence.EntityManagerFactory;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Inheritance;
import jakarta.persistence.InheritanceType;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToMany;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.OneToMany;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.io.Serializable;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.function.Consumer;
import java.util.function.Function;
import org.hibernate.annotations.Cache;
import org.hibernate.annotations.CacheConcurrencyStrategy;
import org.hibernate.annotations.SQLRestriction;
import org.hibernate.cfg.AvailableSettings;
import org.hibernate.cfg.Configuration;
import org.hibernate.type.YesNoConverter;

/** A harbour of entities on a database of its own, and Vacancy in the transactions of its entity managers. */
final class Harbour implements AutoCloseable {

    enum State {
        AFLOAT,
        ASHORE
    }

    @Embeddable
    static class Place {
        @Column(name = "place_row")
        String row;

        @Column(name = "place_no")
        Integer number;
    }

    @Entity(name = "Boat")
    @DeletionRules(label = "{name} of {place.row}", softDelete = true)
    @Cacheable
    @Cache(usage = CacheConcurrencyStrategy.READ_WRITE, region = "boats")
    static class Boat {
        @Id
        Long id;

        @Column(name = "boat_name")
        String name;

        @Column(name = "left_on")
        @DeletionMarker
        LocalDate leftOn;

        @Column(name = "left_by")
        @DeletedBy
        String leftBy;

        @Column(name = "left_why")
        @DeletedBecause
        String leftWhy;

        @ChangedBy
        @Column(name = "changed_by")
        String changedBy;

        @Version
        Long revision;

        @Enumerated(EnumType.ORDINAL)
        State state = State.AFLOAT;

        @Embedded
        Place place;

        @ManyToOne
        @JoinColumn(name = "owner_id")
        @ChildRule(then = Then.REASSIGN)
        Skipper owner;

        @OneToMany(mappedBy = "boat", cascade = CascadeType.ALL, orphanRemoval = true)
        @ChildRule(then = Then.CASCADE)
        @ChildRule(then = Then.LEAVE, whenSoftDeleted = true)
        @Cache(usage = CacheConcurrencyStrategy.READ_WRITE, region = "moorings")
        List<Mooring> moorings = new ArrayList<>();

        @ElementCollection
        @Column(name = "tag", nullable = false, length = 40)
        Set<String> tags = new HashSet<>();

        @ManyToMany
        Set<Skipper> crew = new HashSet<>();
    }

    @Entity(name = "Mooring")
    static class Mooring {
        @Id
        Long id;

        @ManyToOne(optional = false)
        Boat boat;

        @ManyToOne
        Berth berth;

        @OneToMany(mappedBy = "mooring")
        List<Fee> fees = new ArrayList<>();
    }

    @Entity(name = "Fee")
    static class Fee {
        @Id
        UUID id;

        @ManyToOne
        @JoinColumn(name = "mooring_id")
        @ChildRule(when = "paid <> 'Y' OR paid IS NULL", then = Then.BLOCK, reason = "unpaid")
        @ChildRule(then = Then.CASCADE)
        Mooring mooring;

        @Convert(converter = YesNoConverter.class)
        Boolean paid;
    }

    @Embeddable
    static class BerthId implements Serializable {
        String pier;
        Integer number;

        BerthId() {}

        BerthId(String pier, Integer number) {
            this.pier = pier;
            this.number = number;
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof BerthId id && pier.equals(id.pier) && number.equals(id.number);
        }

        @Override
        public int hashCode() {
            return Objects.hash(pier, number);
        }
    }

    @Entity(name = "Berth")
    static class Berth {
        @EmbeddedId
        BerthId id;

        Integer depth;
    }

    static class ReadingId implements Serializable {
        Long meter;
        Integer hour;

        ReadingId() {}

        ReadingId(Long meter, Integer hour) {
            this.meter = meter;
            this.hour = hour;
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof ReadingId id && meter.equals(id.meter) && hour.equals(id.hour);
        }

        @Override
        public int hashCode() {
            return Objects.hash(meter, hour);
        }
    }

    @Entity(name = "Reading")
    @IdClass(ReadingId.class)
    static class Reading {
        @Id
        Long meter;

        @Id
        @Column(name = "read_hour")
        Integer hour;

        Integer used;
    }

    @Entity(name = "Skipper")
    static class Skipper {
        @Id
        Long id;

        @Personal(blank = "skipper {id}")
        String email;

        @OneToMany(mappedBy = "owner")
        List<Boat> boats = new ArrayList<>();
    }

    /** Queries do not find one that is marked. */
    @Entity(name = "Buoy")
    @DeletionRules(softDelete = true)
    @SQLRestriction("left_on IS NULL")
    static class Buoy {
        @Id
        Long id;

        @Column(name = "left_on")
        @DeletionMarker
        LocalDate leftOn;

        @Version
        Long revision;
    }

    /** Names that have to be quoted, and classes that share a table. */
    @Entity(name = "WorkOrder")
    @Table(name = "`Order`")
    @Inheritance(strategy = InheritanceType.SINGLE_TABLE)
    static class WorkOrder {
        @Id
        Long id;

        @Column(name = "`Group`")
        String group;
    }

    @Entity(name = "Repair")
    @DiscriminatorValue("R")
    static class Repair extends WorkOrder {
        Integer hours;
    }

    @Entity(name = "Yard")
    @Inheritance(strategy = InheritanceType.JOINED)
    static class Yard {
        @Id
        Long id;
    }

    @Entity(name = "SailYard")
    static class SailYard extends Yard {
        Integer looms;
    }

    static final List<Class<?>> ENTITIES = List.of(
            Boat.class,
            Mooring.class,
            Fee.class,
            Berth.class,
            Reading.class,
            Skipper.class,
            Buoy.class,
            WorkOrder.class,
            Repair.class,
            Yard.class,
            SailYard.class);

    final Database database;
    final EntityManagerFactory factory;
    final Entities entities;
    final Vacancy vacancy;
    private final ThreadLocal<EntityManager> current = new ThreadLocal<>();

    Harbour(Engine engine) {
        this(engine.fresh(), times(engine));
    }

    /** The driver of SQLite keeps dates as numbers, which no declared type says. */
    private static RuleBook times(Engine engine) {
        return engine == Engine.SQLITE
                ? RuleBook.build(book -> book.table("boat", t -> t.times("left_on", TimeEncoding.EPOCH_MILLISECONDS)))
                : RuleBook.empty();
    }

    Harbour(Database database, RuleBook prevailing) {
        this.database = database;
        factory = factory(database, ENTITIES);
        entities = Entities.of(factory);
        JdbcStore store = JdbcStore.of(database.source());
        vacancy = Vacancy.on(store)
                .rules(EntityRules.of(factory).under(prevailing, store.schema()).book())
                .joining(EntityTransactions.of(factory, current::get))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
    }

    static EntityManagerFactory factory(Database database, List<Class<?>> entities) {
        Configuration configuration = new Configuration();
        entities.forEach(configuration::addAnnotatedClass);
        configuration.getProperties().put(AvailableSettings.JAKARTA_NON_JTA_DATASOURCE, database.source());
        configuration.setProperty(AvailableSettings.HBM2DDL_AUTO, "create");
        configuration.setProperty(AvailableSettings.USE_SECOND_LEVEL_CACHE, "true");
        configuration.setProperty(AvailableSettings.USE_QUERY_CACHE, "true");
        configuration.setProperty("hibernate.cache.region.factory_class", "jcache");
        configuration.setProperty("hibernate.javax.cache.missing_cache_strategy", "create");
        if (database.engine() == Engine.SQLITE) {
            configuration.setProperty(AvailableSettings.DIALECT, "org.hibernate.community.dialect.SQLiteDialect");
        }
        return configuration.buildSessionFactory();
    }

    /** Two boats of one skipper, with two moorings each. */
    Harbour filled() {
        in(manager -> {
            Skipper skipper = new Skipper();
            skipper.id = 1L;
            skipper.email = "una@example.org";
            manager.persist(skipper);
            for (long id = 1; id <= 2; id++) {
                Boat boat = new Boat();
                boat.id = id;
                boat.name = id == 1 ? "Osprey" : "Heron";
                boat.place = new Place();
                boat.place.row = "C";
                boat.place.number = (int) id;
                boat.owner = skipper;
                boat.tags.addAll(Set.of("wood", "gaff"));
                boat.crew.add(skipper);
                manager.persist(boat);
                for (long each = 1; each <= 2; each++) {
                    Mooring mooring = new Mooring();
                    mooring.id = id * 10 + each;
                    mooring.boat = boat;
                    boat.moorings.add(mooring);
                    manager.persist(mooring);
                }
            }
            return null;
        });
        return this;
    }

    /** In a transaction of an entity manager of its own. */
    <T> T in(Function<EntityManager, T> work) {
        EntityManager manager = factory.createEntityManager();
        current.set(manager);
        try {
            manager.getTransaction().begin();
            T result = work.apply(manager);
            manager.getTransaction().commit();
            return result;
        } finally {
            current.remove();
            if (manager.getTransaction().isActive()) {
                manager.getTransaction().rollback();
            }
            manager.close();
        }
    }

    void with(Consumer<EntityManager> work) {
        in(manager -> {
            work.accept(manager);
            return null;
        });
    }

    @Override
    public void close() {
        factory.close();
        database.drop();
    }
}
