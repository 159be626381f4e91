/** H2. */
@NullMarked
package io.vacancy.jdbc.internal.engine.h2;

import org.jspecify.annotations.NullMarked;
