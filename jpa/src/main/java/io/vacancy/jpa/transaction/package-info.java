/** Deletions in transactions of entity managers. */
@NullMarked
package io.vacancy.jpa.transaction;

import org.jspecify.annotations.NullMarked;
