/** Following relations from the selected rows to all that depend on them. */
@NullMarked
package io.vacancy.jdbc.internal.traversal;

import org.jspecify.annotations.NullMarked;
