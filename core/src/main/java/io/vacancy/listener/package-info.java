/** Hearing of what Vacancy does. */
@NullMarked
package io.vacancy.listener;

import org.jspecify.annotations.NullMarked;
