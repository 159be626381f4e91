/** What differs between database engines, one small class each. */
@NullMarked
package io.vacancy.jdbc.dialect;

import org.jspecify.annotations.NullMarked;
