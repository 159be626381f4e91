/** The texts that people read. */
@NullMarked
package io.vacancy.internal.message;

import org.jspecify.annotations.NullMarked;
