/** Vacancy's own tables: what they are called, what makes them, how they write a time. */
@NullMarked
package io.vacancy.jdbc.own;

import org.jspecify.annotations.NullMarked;
