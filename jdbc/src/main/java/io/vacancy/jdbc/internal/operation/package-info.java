/** What is done to the rows, one class for each operation. */
@NullMarked
package io.vacancy.jdbc.internal.operation;

import org.jspecify.annotations.NullMarked;
