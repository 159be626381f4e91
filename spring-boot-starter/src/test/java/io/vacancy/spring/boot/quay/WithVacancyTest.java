// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot.quay;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.spring.boot.test.WithVacancy;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.autoconfigure.EnableAutoConfiguration;
import org.springframework.boot.test.autoconfigure.orm.jpa.DataJpaTest;
import org.springframework.test.context.ContextConfiguration;

/** A slice of an application, on its own embedded database, rolled back after each test. */
@DataJpaTest
@WithVacancy
@ContextConfiguration(classes = WithVacancyTest.Slice.class)
class WithVacancyTest {

    @EnableAutoConfiguration
    static class Slice {}

    @Autowired
    private Boats boats;

    @Autowired
    private Vacancy vacancy;

    @Test
    void isPartOfTheTestsTransaction() {
        Boat boat = boats.save(new Boat("Osprey"));
        assertThat(boats.softDelete(boat.id, "sold").receiptOrThrow().by()).isEqualTo("test");
        assertThat(boat.leftOn).isNotNull();
        assertThat(vacancy.history().page(10).entries()).hasSize(1);
    }

    @Test
    void andLeavesNothingToTheNext() {
        assertThat(boats.count()).isZero();
        assertThat(vacancy.history().page(10).entries()).isEmpty();
    }
}
