// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.Vacancy;

/** Has a last word before Vacancy is opened; beans of this type are called in their order. */
@FunctionalInterface
public interface VacancyCustomizer {

    /** @param vacancy with everything that is configured */
    void customize(Vacancy.Builder vacancy);
}
