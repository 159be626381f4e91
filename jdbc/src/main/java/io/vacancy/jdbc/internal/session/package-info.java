/** Connections, transactions, statements and their errors. */
@NullMarked
package io.vacancy.jdbc.internal.session;

import org.jspecify.annotations.NullMarked;
