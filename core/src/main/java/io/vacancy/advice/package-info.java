/** What is worth mending in the database, with the statements that would. */
@NullMarked
package io.vacancy.advice;

import org.jspecify.annotations.NullMarked;
