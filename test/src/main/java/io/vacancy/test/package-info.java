/** For tests of applications: a store in memory, assertions, and what every store has to do. */
@NullMarked
package io.vacancy.test;

import org.jspecify.annotations.NullMarked;
