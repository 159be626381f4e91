// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.schema.ColumnType;
import java.util.List;

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

    /** As the array is sent to clients, with the length of each text. */
    @Override
    public String digest(String image, List<String> texts) {
        return "encode(sha256(string_agg(sha256(array_send(" + image + ".cells)), ''::bytea ORDER BY " + image
                + ".row_no)), 'hex')";
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return value + "::text";
    }
}
