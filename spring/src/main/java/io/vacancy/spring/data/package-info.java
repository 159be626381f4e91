/** Deletions by repositories of Spring Data. */
@NullMarked
package io.vacancy.spring.data;

import org.jspecify.annotations.NullMarked;
