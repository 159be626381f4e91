// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import io.vacancy.engines.Engine;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A test that takes the {@link Engine} to run on, and runs on each. */
@Retention(RetentionPolicy.RUNTIME)
@ParameterizedTest(name = "{0}")
@MethodSource("io.vacancy.engines.Engine#all")
@interface OnEveryEngine {}
