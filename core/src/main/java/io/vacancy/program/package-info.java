/** A request compiled: which relations to follow, in which order. Pure computation. */
@NullMarked
package io.vacancy.program;

import org.jspecify.annotations.NullMarked;
