/** Statements that define something: printed for people, never run. */
@NullMarked
package io.vacancy.jdbc.definition;

import org.jspecify.annotations.NullMarked;
