/** Computations on graphs. */
@NullMarked
package io.vacancy.internal.graph;

import org.jspecify.annotations.NullMarked;
