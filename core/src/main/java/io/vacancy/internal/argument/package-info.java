/** Checking what callers hand over. */
@NullMarked
package io.vacancy.internal.argument;

import org.jspecify.annotations.NullMarked;
