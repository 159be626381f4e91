// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.RelativeTime;
import org.jspecify.annotations.Nullable;

/**
 * What is written into a column.
 *
 * @param value a value of the column's kind, a {@link RelativeTime}, a {@link ColumnRef} for what another column of
 *     the same row holds, a {@link RaisedVersion}, a {@link KeyTemplate}, or null
 */
public record Assignment(String column, @Nullable Object value) {}
