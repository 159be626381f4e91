/** The audit history in Vacancy's own tables: written, read, sealed and passed on. */
@NullMarked
package io.vacancy.jdbc.trail;

import org.jspecify.annotations.NullMarked;
