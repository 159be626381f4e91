// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import java.util.Collection;

/** SQLite: how an engine tells of its tables. */
final class SqliteCatalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new SqliteSchemaReader();
    }

    @Override
    public Sql definitions(Collection<String> tables) {
        return Sql.of("SELECT NULL, NULL, schema_version FROM pragma_schema_version");
    }
}
