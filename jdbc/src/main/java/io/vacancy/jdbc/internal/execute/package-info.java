/** Executing a plan in one transaction, and settling what became of it. */
@NullMarked
package io.vacancy.jdbc.internal.execute;

import org.jspecify.annotations.NullMarked;
