// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * The attribute keeps when a row was changed last; whatever Vacancy marks, restores or gives another link sets it.
 */
@Documented
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.FIELD, ElementType.METHOD})
public @interface ChangedAt {}
