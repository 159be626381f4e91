/** Previews, outcomes and errors as JSON documents. */
@NullMarked
package io.vacancy.text.json;

import org.jspecify.annotations.NullMarked;
