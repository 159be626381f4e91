/** The made-up harbour office of the demo, the examples and the tests. */
@NullMarked
package io.vacancy.harbour;

import org.jspecify.annotations.NullMarked;
