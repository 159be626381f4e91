// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jpa.rules.ChildRule;
import io.vacancy.jpa.rules.DeletionMarker;
import io.vacancy.jpa.rules.DeletionRules;
import io.vacancy.jpa.rules.EntityRules;
import io.vacancy.jpa.rules.Then;
import io.vacancy.request.Mode;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.CombinedRules;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.rules.TableEntry;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityManagerFactory;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToOne;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class EntityRulesTest {

    @Test
    void annotationsAndTheMappingItselfBecomeARuleBook() {
        try (Harbour harbour = new Harbour(Engine.H2)) {
            var book = EntityRules.of(harbour.factory).book();
            TableEntry boat = table(book.tables(), "boat");
            assertThat(boat.label()).isEqualToIgnoringCase("{boat_name} of {place_row}");
            assertThat(boat.mode()).isEqualTo(Mode.SOFT_DELETE);
            assertThat(boat.marker())
                    .isEqualTo(Marker.date("left_on").who("left_by").why("left_why"));
            assertThat(boat.auditColumns()).satisfies(stamps -> {
                assertThat(stamps.changedBy()).isEqualTo("changed_by");
                assertThat(stamps.version()).isEqualTo("revision");
            });
            assertThat(table(book.tables(), "skipper").personal()).containsExactly("email");
            assertThat(table(book.tables(), "skipper").blank()).isEqualTo(Map.of("email", "skipper {id}"));

            assertThat(relation(book.relations(), "mooring.boat_id -> boat.id").rules())
                    .containsExactly(Rule.cascade());
            assertThat(relation(book.relations(), "mooring.boat_id -> boat.id").whenSoftDeleted())
                    .containsExactly(Rule.leave());
            assertThat(relation(book.relations(), "fee.mooring_id -> mooring.id")
                            .rules())
                    .extracting(Rule::written)
                    .containsExactly("block:unpaid", "cascade");
            // Values, links and further tables of an entity have no life of their own.
            assertThat(book.relations())
                    .extracting(entry -> entry.relation().toLowerCase(java.util.Locale.ROOT))
                    .contains(
                            "boat_tags.boat_id -> boat.id",
                            "boat_skipper.boat_id -> boat.id",
                            "boat_skipper.crew_id -> skipper.id",
                            "sailyard.id -> yard.id");
        }
    }

    private static TableEntry table(List<TableEntry> all, String name) {
        return all.stream()
                .filter(each -> each.table().equalsIgnoreCase(name))
                .findFirst()
                .orElseThrow();
    }

    private static RelationEntry relation(List<RelationEntry> all, String name) {
        return all.stream()
                .filter(each -> each.relation().equalsIgnoreCase(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void theFilePrevailsAndTellsWhereTheyDiffer() {
        try (Harbour harbour = new Harbour(Engine.H2)) {
            CombinedRules combined = EntityRules.of(harbour.factory)
                    .under(
                            RuleBookFile.read("""
                                    version: 1
                                    tables:
                                      boat: {label: "{boat_name}"}
                                      yard: {marker: {date: closed_on}}
                                    relations:
                                      mooring.boat_id: {block: "moored"}
                                    """, "vacancy.yaml"),
                            JdbcStore.of(harbour.database.source()).schema());
            assertThat(combined.contradictions())
                    .containsExactlyInAnyOrder(
                            "Table boat: the label {boat_name} holds, though {boat_name} of {place_row} is said as well.",
                            "Relation mooring.boat_id: block:moored holds, though cascade is said as well.");
            // What continues a row that the file has marked stays with it.
            assertThat(relation(combined.book().relations(), "sailyard.id -> yard.id")
                            .whenSoftDeleted())
                    .containsExactly(Rule.leave());
        }
    }

    enum Berthing {
        MOORED,
        AWAY,
        GONE
    }

    @Entity(name = "Ferry")
    static class Ferry {
        @Id
        Long id;

        @Enumerated(EnumType.STRING)
        @DeletionMarker(deleted = "GONE")
        Berthing berthing;
    }

    @Entity(name = "Tug")
    static class Tug {
        @Id
        Long id;

        @DeletionMarker(deleted = "false")
        boolean active;
    }

    @Entity(name = "Pilot")
    @DeletionRules(never = true, neverEmpty = true, atMost = 3)
    static class Pilot {
        @Id
        Long id;

        @DeletionMarker(active = "9999-12-31")
        LocalDate until;
    }

    @Test
    void markersOfEveryKind() {
        var book = rules(Ferry.class, Tug.class, Pilot.class);
        assertThat(table(book, "ferry").marker()).isEqualTo(Marker.status("berthing", "GONE", "MOORED", "AWAY"));
        assertThat(table(book, "tug").marker()).isEqualTo(Marker.flag("active", true, false));
        TableEntry pilot = table(book, "pilot");
        assertThat(pilot.marker()).isEqualTo(Marker.endDate("until", "9999-12-31"));
        assertThat(pilot.neverDeletedFrom()).isTrue();
        assertThat(pilot.neverEmptied()).isTrue();
        assertThat(pilot.limits().atMost()).isEqualTo(3);
    }

    @Entity(name = "Lost")
    static class Lost {
        @Id
        Long id;

        @DeletionMarker
        boolean gone;
    }

    @Entity(name = "Mute")
    static class Mute {
        @Id
        Long id;

        @ManyToOne
        @ChildRule(then = Then.BLOCK)
        Ferry ferry;
    }

    @Entity(name = "Stray")
    static class Stray {
        @Id
        Long id;

        @ChildRule(then = Then.CASCADE)
        String name;
    }

    @Entity(name = "Double")
    static class Twice {
        @Id
        Long id;

        @DeletionMarker
        LocalDate left;

        @DeletionMarker
        LocalDate gone;

        @ElementCollection
        @Column(name = "tag", nullable = false)
        Set<String> tags;
    }

    @Test
    void whatCannotBeHonouredIsRefused() {
        assertThatThrownBy(() -> rules(Lost.class))
                .isInstanceOf(MisuseException.class)
                .hasMessage("@DeletionMarker on Lost.gone does not say what deleted rows have.");
        assertThatThrownBy(() -> rules(Ferry.class, Mute.class))
                .hasMessage("@ChildRule on Mute.ferry blocks without a reason.");
        assertThatThrownBy(() -> rules(Stray.class))
                .hasMessage("@ChildRule is on Stray.name, which refers to no other table.");
        assertThatThrownBy(() -> rules(Twice.class))
                .hasMessage("Entity Double has several attributes with @DeletionMarker.");
    }

    private static List<TableEntry> rules(Class<?>... entities) {
        Database database = Engine.H2.fresh();
        try (EntityManagerFactory factory = Harbour.factory(database, List.of(entities))) {
            return EntityRules.of(factory).book().tables();
        } finally {
            database.drop();
        }
    }
}
