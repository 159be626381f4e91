/** Tests of applications that use Vacancy. */
@NullMarked
package io.vacancy.spring.boot.test;

import org.jspecify.annotations.NullMarked;
