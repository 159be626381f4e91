/** Finding the engine of a connection. */
@NullMarked
package io.vacancy.jdbc.internal.engine;

import org.jspecify.annotations.NullMarked;
