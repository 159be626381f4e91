/** Conditions written as search conditions of the SQL standard. */
@NullMarked
package io.vacancy.text.sql;

import org.jspecify.annotations.NullMarked;
