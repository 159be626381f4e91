/** Receipts and images in tables of Vacancy's own: kept, listed, brought back, and gone for good. */
@NullMarked
package io.vacancy.jdbc.archive;

import org.jspecify.annotations.NullMarked;
