// SPDX-License-Identifier: Apache-2.0
/** Vacancy in transactions that Spring begins, without Spring Boot. */
@NullMarked
package io.vacancy.spring;

import org.jspecify.annotations.NullMarked;
