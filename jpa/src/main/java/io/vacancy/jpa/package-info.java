/** Requests by entity and attribute. */
@NullMarked
package io.vacancy.jpa;

import org.jspecify.annotations.NullMarked;
