/** The entrance: {@link io.vacancy.Vacancy} stands in front of every deletion of an application. */
@NullMarked
package io.vacancy;

import org.jspecify.annotations.NullMarked;
