// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;

/** SQLite: how an engine tells of its tables. */
final class SqliteCatalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new SqliteSchemaReader();
    }

    @Override
    public String digest() {
        return "PRAGMA schema_version";
    }
}
