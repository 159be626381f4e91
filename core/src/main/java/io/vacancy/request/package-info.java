/** Which rows of which table are meant, in which mode, and why. */
@NullMarked
package io.vacancy.request;

import org.jspecify.annotations.NullMarked;
