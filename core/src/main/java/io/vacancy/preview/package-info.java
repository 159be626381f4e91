/** What a request would do, and the digest that ties an answer to it. */
@NullMarked
package io.vacancy.preview;

import org.jspecify.annotations.NullMarked;
