/** What is known of the database's tables, read again when they were altered. */
@NullMarked
package io.vacancy.jdbc.internal.schema;

import org.jspecify.annotations.NullMarked;
