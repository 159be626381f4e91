// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.Row;
import org.jspecify.annotations.Nullable;

/**
 * A selected row that is left out, and why.
 *
 * @param relation the relation through which something stands in the way of it, or of what would go with it
 * @param reason why, as the rule book or the schema has it; of several the one that was found first
 */
public record SkippedRow(Row row, @Nullable String relation, String reason) {}
