/** Measured comparisons; {@code bin/benchmark} runs them. */
@NullMarked
package io.vacancy.benchmarks;

import org.jspecify.annotations.NullMarked;
