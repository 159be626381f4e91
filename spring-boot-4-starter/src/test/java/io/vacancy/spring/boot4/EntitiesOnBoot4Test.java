// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jpa.Entities;
import io.vacancy.outcome.Outcome;
import io.vacancy.spring.boot.CurrentActor;
import io.vacancy.spring.boot.EntitiesAutoConfiguration;
import io.vacancy.spring.boot.VacancyAutoConfiguration;
import io.vacancy.spring.boot4.quay.Boat;
import io.vacancy.spring.boot4.quay.Boats;
import io.vacancy.spring.boot4.quay.Mooring;
import io.vacancy.spring.boot4.quay.Quay;
import javax.sql.DataSource;
import org.hibernate.Version;
import org.junit.jupiter.api.Test;
import org.springframework.boot.autoconfigure.AutoConfigurations;
import org.springframework.boot.data.jpa.autoconfigure.DataJpaRepositoriesAutoConfiguration;
import org.springframework.boot.hibernate.autoconfigure.HibernateJpaAutoConfiguration;
import org.springframework.boot.test.context.runner.ApplicationContextRunner;
import org.springframework.boot.transaction.autoconfigure.TransactionAutoConfiguration;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Entities and repositories as on the other line, with the next Hibernate and the next Spring Data. */
class EntitiesOnBoot4Test {

    @Test
    void repositoriesDeleteAndTheManagerStaysTrue() {
        assertThat(Version.getVersionString()).startsWith("7.1");
        Database database = Engine.h2AsItComes();
        new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(
                        HibernateJpaAutoConfiguration.class,
                        DataJpaRepositoriesAutoConfiguration.class,
                        TransactionAutoConfiguration.class,
                        EntitiesAutoConfiguration.class,
                        VacancyAutoConfiguration.class))
                .withBean(DataSource.class, database::source)
                .withBean(CurrentActor.class, () -> () -> "Mira Holm")
                .withUserConfiguration(Quay.class)
                .withPropertyValues(
                        "spring.jpa.hibernate.ddl-auto=create", "vacancy.own-tables=create", "vacancy.jobs.node=false")
                .run(context -> {
                    Boats boats = context.getBean(Boats.class);
                    Boat osprey = new Boat("Osprey");
                    new Mooring(osprey);
                    long id = boats.save(osprey).id;
                    TransactionTemplate template =
                            new TransactionTemplate(context.getBean(PlatformTransactionManager.class));
                    template.executeWithoutResult(status -> {
                        Boat managed = boats.findById(id).orElseThrow();
                        new Mooring(managed);
                        context.getBean(Vacancy.class)
                                .execute(context.getBean(Entities.class)
                                        .softDelete(Boat.class)
                                        .key(id)
                                        .withoutConfirmation("sold"))
                                .receiptOrThrow();
                        assertThat(managed.leftOn).isNotNull();
                        managed.name = "Sea Osprey";
                    });
                    assertThat(boats.delete(id, "again")).isInstanceOf(Outcome.Nothing.class);
                    boats.restore(id, "bought back").receiptOrThrow();
                    assertThat(boats.findById(id)).hasValueSatisfying(boat -> {
                        assertThat(boat.leftOn).isNull();
                        assertThat(boat.name).isEqualTo("Sea Osprey");
                    });
                    assertThat(boats.erase(id, "sunk").receiptOrThrow().totals().values())
                            .containsExactly(3L);
                });
        database.drop();
    }
}
