/** Conditions and definitions as SQL. */
@NullMarked
package io.vacancy.jdbc.internal.sql;

import org.jspecify.annotations.NullMarked;
