/** Finding out what a request means on these tables and rules. */
@NullMarked
package io.vacancy.internal.resolve;

import org.jspecify.annotations.NullMarked;
