/** How a request ended, and the receipt of what was done. */
@NullMarked
package io.vacancy.outcome;

import org.jspecify.annotations.NullMarked;
