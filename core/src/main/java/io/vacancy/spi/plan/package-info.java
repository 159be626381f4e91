/** What a store is told to do: relations to follow, rows to take, values to write. */
@NullMarked
package io.vacancy.spi.plan;

import org.jspecify.annotations.NullMarked;
