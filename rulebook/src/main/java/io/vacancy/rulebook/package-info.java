/** The rule book as a YAML file. */
@NullMarked
package io.vacancy.rulebook;

import org.jspecify.annotations.NullMarked;
