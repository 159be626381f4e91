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

    @Override
    public String digest() {
        return """
                SELECT concat((SELECT concat(count(*), '/', coalesce(sum(crc32(concat_ws(' ', constraint_name, table_name,
                                             referenced_table_name, unique_constraint_name, delete_rule))), 0))
                                 FROM information_schema.referential_constraints WHERE constraint_schema = database()),
                              ' ', (SELECT count(*) FROM information_schema.triggers WHERE trigger_schema = database()))""";
    }

    @Override
    public Sql columnDigests(Collection<String> tables) {
        return Sql.of("SELECT NULL, d.table_name, sum(crc32(d.told)) FROM (SELECT c.table_name, concat_ws(' ',"
                        + " c.ordinal_position, c.column_name, c.column_type, c.is_nullable, c.column_key, c.extra) AS told"
                        + " FROM information_schema.columns c WHERE c.table_schema = database()")
                .add(Catalogue.among(" AND c.table_name", tables))
                .add(
                        " UNION ALL SELECT k.table_name, concat_ws(' ', k.constraint_name, k.column_name, k.ordinal_position,"
                                + " k.referenced_table_name, k.referenced_column_name) FROM information_schema.key_column_usage k"
                                + " WHERE k.table_schema = database()")
                .add(Catalogue.among(" AND k.table_name", tables))
                .add(") d GROUP BY d.table_name");
    }
}
