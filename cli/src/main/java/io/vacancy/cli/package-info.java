/** The command-line tool. */
@NullMarked
package io.vacancy.cli;

import org.jspecify.annotations.NullMarked;
