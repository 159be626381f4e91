/** What goes wrong, by kind. */
@NullMarked
package io.vacancy.failure;

import org.jspecify.annotations.NullMarked;
