/** What an entity manager and its caches remember of rows. */
@NullMarked
package io.vacancy.jpa.internal.context;

import org.jspecify.annotations.NullMarked;
