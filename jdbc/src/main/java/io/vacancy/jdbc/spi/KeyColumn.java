// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;

/**
 * A column by which rows are kept track of.
 *
 * @param name a column of the table, or the engine's name for its row id
 * @param rowId whether it is the latter, which is no identifier to be quoted
 */
public record KeyColumn(String name, ColumnType type, boolean rowId) {}
