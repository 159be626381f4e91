/** Lists of keys and rows as files: CSV, JSON Lines, one a line. */
@NullMarked
package io.vacancy.text.rows;

import org.jspecify.annotations.NullMarked;
