/** Tables and columns of entities, as the provider maps them. */
@NullMarked
package io.vacancy.jpa.internal.mapping;

import org.jspecify.annotations.NullMarked;
