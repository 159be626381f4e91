/** Vacancy's own tables. */
@NullMarked
package io.vacancy.jdbc.internal.tables;

import org.jspecify.annotations.NullMarked;
