/** Copies of rows in a file of JSON Lines. */
@NullMarked
package io.vacancy.json.saved;

import org.jspecify.annotations.NullMarked;
