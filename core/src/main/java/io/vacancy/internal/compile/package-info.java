/** Turning a resolved request into a plan for a store; no I/O. */
@NullMarked
package io.vacancy.internal.compile;

import org.jspecify.annotations.NullMarked;
