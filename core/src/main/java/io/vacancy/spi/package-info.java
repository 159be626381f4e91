/** What the core asks of a store. */
@NullMarked
package io.vacancy.spi;

import org.jspecify.annotations.NullMarked;
