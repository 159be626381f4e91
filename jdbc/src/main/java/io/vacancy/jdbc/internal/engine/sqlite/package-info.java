/** SQLite. */
@NullMarked
package io.vacancy.jdbc.internal.engine.sqlite;

import org.jspecify.annotations.NullMarked;
