/** What entities say of their own deletion. */
@NullMarked
package io.vacancy.jpa.rules;

import org.jspecify.annotations.NullMarked;
