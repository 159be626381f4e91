// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;

/** PostgreSQL: how an engine tells of its tables. */
final class PostgresqlCatalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new PostgresqlSchemaReader();
    }

    @Override
    public String digest() {
        // A foreign key keeps triggers on both its tables, so this small table knows of both.
        return "SELECT count(*) || '/' || coalesce(sum(oid::bigint * 128 + ascii(tgenabled::text)), 0) FROM pg_trigger";
    }

    @Override
    public ColumnType rowIdType() {
        return ColumnType.of(ValueKind.OTHER, "tid");
    }
}
