/** A connection in a transaction, and what becomes of the driver's exceptions. */
@NullMarked
package io.vacancy.jdbc.session;

import org.jspecify.annotations.NullMarked;
