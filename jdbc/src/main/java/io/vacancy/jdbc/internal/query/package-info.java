/** What is only looked at: previews, rows, orphans and counts, each in a transaction that is undone. */
@NullMarked
package io.vacancy.jdbc.internal.query;

import org.jspecify.annotations.NullMarked;
