/** The trail, its seals and its events. */
@NullMarked
package io.vacancy.jdbc.internal.trail;

import org.jspecify.annotations.NullMarked;
