// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot.test;

import io.vacancy.spring.boot.CurrentActor;
import io.vacancy.spring.boot.VacancyAutoConfiguration;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.context.annotation.Bean;

/** Somebody who works, where a test names nobody. */
@AutoConfiguration(before = VacancyAutoConfiguration.class)
class TestActor {

    @Bean
    @ConditionalOnMissingBean
    CurrentActor testActor() {
        return () -> "test";
    }
}
