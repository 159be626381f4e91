/** Programs to read and run, one idea each, on the harbour office in memory or in a temporary file. */
@NullMarked
package io.vacancy.examples;

import org.jspecify.annotations.NullMarked;
