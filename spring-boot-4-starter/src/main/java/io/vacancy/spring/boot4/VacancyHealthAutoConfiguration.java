// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4;

import io.vacancy.spring.boot.VacancyAutoConfiguration;
import io.vacancy.spring.boot.VacancyHealthCheck;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnClass;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.context.annotation.Bean;

/** Health, where the actuator of this line of Spring Boot is there. */
@AutoConfiguration(after = VacancyAutoConfiguration.class)
@ConditionalOnClass(HealthIndicator.class)
@ConditionalOnBean(VacancyHealthCheck.class)
@ConditionalOnProperty(name = "management.health.vacancy.enabled", matchIfMissing = true)
public class VacancyHealthAutoConfiguration {

    @Bean
    @ConditionalOnMissingBean(name = "vacancyHealthIndicator")
    HealthIndicator vacancyHealthIndicator(VacancyHealthCheck check) {
        return new VacancyHealth(check);
    }
}
