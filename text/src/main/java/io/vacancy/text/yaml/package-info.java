/** The rule book as a file. */
@NullMarked
package io.vacancy.text.yaml;

import org.jspecify.annotations.NullMarked;
