/** MySQL 8, which nobody has run yet. */
@NullMarked
package io.vacancy.jdbc.internal.engine.mysql;

import org.jspecify.annotations.NullMarked;
