/** Boolean expressions over one table's columns. */
@NullMarked
package io.vacancy.condition;

import org.jspecify.annotations.NullMarked;
