package io.vacancy.rules;

import io.vacancy.condition.ColumnTerm;
import io.vacancy.condition.Moment;
import org.jspecify.annotations.Nullable;

/**
 * What is written into a column.
 *
 * @param value a value of the column's kind, a {@link Moment}, a {@link ColumnTerm} for what another column of
 *     the same row holds, or null
 */
public record Assignment(String column, @Nullable Object value) {}
