/** What the trail is told of a deletion, without personal values. */
@NullMarked
package io.vacancy.internal.audit;

import org.jspecify.annotations.NullMarked;
