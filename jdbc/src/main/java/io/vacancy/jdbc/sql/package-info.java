/** SQL text together with the values that are bound to it. */
@NullMarked
package io.vacancy.jdbc.sql;

import org.jspecify.annotations.NullMarked;
