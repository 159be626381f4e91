// SPDX-License-Identifier: Apache-2.0
/** Vacancy in applications of Spring Boot: configured by itself, each part replaced by a bean of the application's own. */
@NullMarked
package io.vacancy.spring.boot;

import org.jspecify.annotations.NullMarked;
