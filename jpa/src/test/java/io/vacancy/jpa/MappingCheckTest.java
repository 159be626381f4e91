// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.Problem;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jpa.check.MappingCheck;
import io.vacancy.jpa.rules.ChildRule;
import io.vacancy.jpa.rules.DeletionMarker;
import io.vacancy.jpa.rules.EntityRules;
import io.vacancy.jpa.rules.Then;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Schema;
import jakarta.persistence.CascadeType;
import jakarta.persistence.Column;
import jakarta.persistence.ConstraintMode;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityManagerFactory;
import jakarta.persistence.ForeignKey;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.OneToMany;
import jakarta.persistence.Version;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.annotations.SQLRestriction;
import org.junit.jupiter.api.Test;

class MappingCheckTest {

    @Entity(name = "Ferry")
    @SQLRestriction("leftOn IS NULL")
    static class Ferry {
        @Id
        Long id;

        @DeletionMarker
        LocalDate leftOn;

        @Version
        Long version;

        @OneToMany(mappedBy = "ferry", cascade = CascadeType.REMOVE)
        List<Trip> trips;
    }

    @Entity(name = "Trip")
    static class Trip {
        @Id
        Long id;

        @ManyToOne
        @ChildRule(then = Then.CASCADE)
        @ChildRule(then = Then.LEAVE, whenSoftDeleted = true)
        Ferry ferry;
    }

    @Test
    void aMappingThatFitsHasNothingToSay() {
        assertThat(problems(Ferry.class, Trip.class)).isEmpty();
    }

    @Entity(name = "Tug")
    @SQLRestriction("leftOn IS NOT NULL")
    static class Tug {
        @Id
        Long id;

        @DeletionMarker
        LocalDate leftOn;

        @OneToMany(mappedBy = "tug", orphanRemoval = true)
        List<Tow> tows;
    }

    @Entity(name = "Tow")
    static class Tow {
        @Id
        Long id;

        @ManyToOne
        @ChildRule(then = Then.BLOCK, reason = "in the books")
        Tug tug;
    }

    @Test
    void whatGoesRoundTheRulesIsTold() {
        assertThat(problems(Tug.class, Tow.class))
                .containsExactlyInAnyOrder(
                        "error: Queries of Tug find the rows with leftOn IS NOT NULL, and its marker says that active rows are"
                                + " those with lefton IS NULL. Let both say the same.",
                        "error: A stale Tug that is written back undoes the soft delete, since it writes leftOn and has no"
                                + " version that Vacancy raises. Give it a @Version, or map leftOn with updatable = false.",
                        "error: Removing through the entity manager goes round the rule: Tug.tows removes children with their"
                                + " parent, or as orphans, and the rule of tow.tug_id is block:in the books. Take cascade REMOVE,"
                                + " ALL and orphanRemoval away.");
    }

    @Entity(name = "Pilot")
    static class Pilot {
        @Id
        Long id;

        @DeletionMarker
        @Column(updatable = false)
        LocalDate leftOn;

        @ManyToOne
        @JoinColumn(foreignKey = @ForeignKey(ConstraintMode.NO_CONSTRAINT))
        Ferry ferry;
    }

    @Test
    void whatTheDatabaseDoesNotDeclareIsOffered() {
        assertThat(problems(Pilot.class, Ferry.class, Trip.class))
                .containsExactlyInAnyOrder(
                        "Queries of Pilot find soft-deleted rows as well. Where they should not, restrict the entity:"
                                + " @SQLRestriction(\"lefton IS NULL\").",
                        "The mapping relates Pilot.ferry_id -> Ferry.id by Pilot.ferry, which the database does not declare, so"
                                + " rows of Pilot are not seen when their parent is deleted. Declare a foreign key, or say in the"
                                + " rule book: \"Pilot.ferry_id -> Ferry.id\": cascade, block or leave.");
    }

    @Test
    void aTableThatIsNotThereIsAnError() {
        Database other = Engine.H2.fresh();
        Database database = Engine.H2.fresh();
        try (EntityManagerFactory factory = Harbour.factory(database, List.of(Tow.class, Tug.class))) {
            Schema schema = JdbcStore.of(other.source()).schema();
            assertThat(MappingCheck.problems(factory, ResolvedRules.fit(RuleBook.empty(), schema)))
                    .extracting(Problem::toString)
                    .contains("Entity Tow is mapped to table Tow, which is not in the database.");
        } finally {
            database.drop();
            other.drop();
        }
    }

    private static List<String> problems(Class<?>... entities) {
        Database database = Engine.H2.fresh();
        try (EntityManagerFactory factory = Harbour.factory(database, List.of(entities))) {
            Schema schema = JdbcStore.of(database.source()).schema();
            RuleBook book =
                    EntityRules.of(factory).under(RuleBook.empty(), schema).book();
            return MappingCheck.problems(factory, ResolvedRules.fit(book, schema)).stream()
                    .map(each -> (each.error() ? "error: " : "") + each)
                    .toList();
        } finally {
            database.drop();
        }
    }
}
