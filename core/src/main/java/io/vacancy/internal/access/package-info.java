/** What is there for the one who asks: the scope and the permissions, in one place. */
@NullMarked
package io.vacancy.internal.access;

import org.jspecify.annotations.NullMarked;
