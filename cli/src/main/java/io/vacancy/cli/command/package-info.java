/** One class a command, and the options they share. */
@NullMarked
package io.vacancy.cli.command;

import org.jspecify.annotations.NullMarked;
