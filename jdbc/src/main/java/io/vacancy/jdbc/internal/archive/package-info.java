/** Receipts and images of rows. */
@NullMarked
package io.vacancy.jdbc.internal.archive;

import org.jspecify.annotations.NullMarked;
