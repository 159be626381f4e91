/** Values and rows as JSON nodes. */
@NullMarked
package io.vacancy.json.internal;

import org.jspecify.annotations.NullMarked;
