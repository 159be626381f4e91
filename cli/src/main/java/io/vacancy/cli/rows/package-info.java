/** Rows and keys in files. */
@NullMarked
package io.vacancy.cli.rows;

import org.jspecify.annotations.NullMarked;
