/** Conditions as SQL search conditions. */
@NullMarked
package io.vacancy.rulebook.sql;

import org.jspecify.annotations.NullMarked;
