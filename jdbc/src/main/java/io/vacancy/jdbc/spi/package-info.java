/** What an engine brings, and what it may leave to the defaults. */
@NullMarked
package io.vacancy.jdbc.spi;

import org.jspecify.annotations.NullMarked;
