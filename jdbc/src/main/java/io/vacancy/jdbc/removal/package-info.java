/** Carrying out what a walk found. */
@NullMarked
package io.vacancy.jdbc.removal;

import org.jspecify.annotations.NullMarked;
