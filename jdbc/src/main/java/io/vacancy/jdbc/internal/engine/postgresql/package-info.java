/** PostgreSQL. */
@NullMarked
package io.vacancy.jdbc.internal.engine.postgresql;

import org.jspecify.annotations.NullMarked;
