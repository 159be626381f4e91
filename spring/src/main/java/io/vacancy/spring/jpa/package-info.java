/** Entity managers that Spring binds to threads. */
@NullMarked
package io.vacancy.spring.jpa;

import org.jspecify.annotations.NullMarked;
