/** The four database engines, brought by Maven, for tests and measurements. */
@NullMarked
package io.vacancy.engines;

import org.jspecify.annotations.NullMarked;
