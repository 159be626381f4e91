/**
 * The harbour's sailing school: courses, students and bookings. An application of Spring Boot with entities, a page and a job,
 * as somebody would write it who puts Vacancy in front of every deletion.
 */
@NullMarked
package io.vacancy.school;

import org.jspecify.annotations.NullMarked;
