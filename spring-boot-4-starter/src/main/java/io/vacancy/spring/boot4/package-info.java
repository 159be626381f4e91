// SPDX-License-Identifier: Apache-2.0
/** What is different in Spring Boot 4: where health is. */
@NullMarked
package io.vacancy.spring.boot4;

import org.jspecify.annotations.NullMarked;
