// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import java.util.Collection;

/** MariaDB: how an engine tells of its tables. */
final class MariadbCatalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new MariadbSchemaReader();
    }

    /**
     * Plain rows of numbers: whatever is grouped here, or keeps a long text, becomes a table on disk for the server. The
     * triggers are asked for by the schema of their table, without which those of every schema are looked through.
     */
    @Override
    public Sql definitions(Collection<String> tables) {
        return Sql.of(
                        "SELECT NULL, c.table_name, crc32(concat_ws(' ', c.ordinal_position, c.column_name, c.column_type,"
                                + " c.is_nullable, c.column_key, c.extra)) FROM information_schema.columns c"
                                + " WHERE c.table_schema = database()")
                .add(Catalogue.among(" AND c.table_name", tables))
                .add(" UNION ALL SELECT NULL, k.table_name, crc32(concat_ws(' ', k.constraint_name, k.column_name,"
                        + " k.ordinal_position, k.referenced_table_name, k.referenced_column_name))"
                        + " FROM information_schema.key_column_usage k WHERE k.table_schema = database()")
                .add(Catalogue.among(" AND k.table_name", tables))
                .add(
                        " UNION ALL SELECT NULL, r.referenced_table_name, crc32(concat_ws(' ', r.constraint_name, r.table_name,"
                                + " r.unique_constraint_name, r.delete_rule)) FROM information_schema.referential_constraints r"
                                + " WHERE r.constraint_schema = database()")
                .add(Catalogue.among(" AND r.referenced_table_name", tables))
                .add(" UNION ALL SELECT NULL, t.event_object_table, crc32(concat_ws(' ', t.trigger_name, t.created))"
                        + " FROM information_schema.triggers t WHERE t.event_object_schema = database()")
                .add(Catalogue.among(" AND t.event_object_table", tables));
    }
}
