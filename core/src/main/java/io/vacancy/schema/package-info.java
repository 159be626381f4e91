/** Tables, columns, keys and relations, and the values that rows are made of. */
@NullMarked
package io.vacancy.schema;

import org.jspecify.annotations.NullMarked;
