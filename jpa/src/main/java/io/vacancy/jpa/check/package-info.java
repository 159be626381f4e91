/** Whether a mapping and the rules fit each other. */
@NullMarked
package io.vacancy.jpa.check;

import org.jspecify.annotations.NullMarked;
