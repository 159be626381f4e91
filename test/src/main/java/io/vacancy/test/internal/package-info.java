/** How the store in memory works. */
@NullMarked
package io.vacancy.test.internal;

import org.jspecify.annotations.NullMarked;
