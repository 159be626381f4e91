// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;

/** PostgreSQL: how rows are kept as images. */
final class PostgresqlRowImages implements RowImages {

    @Override
    public boolean keepsWhileDeleting() {
        return true;
    }

    @Override
    public RowImageEncoding encoding() {
        return new RowImageEncoding.OneArray();
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return value + "::text";
    }
}
