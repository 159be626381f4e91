// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import java.util.Collection;

/** H2: how an engine tells of its tables. */
final class H2Catalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new H2SchemaReader();
    }

    @Override
    public Sql definitions(Collection<String> tables) {
        // Of constraints there is no index by table, so reading some of them costs as much as reading all.
        return Sql.of("SELECT c.table_schema, c.table_name, LISTAGG(c.column_name || ' ' || c.data_type || ' '"
                        + " || COALESCE(c.character_maximum_length, c.numeric_precision, c.datetime_precision, 0) || ' '"
                        + " || COALESCE(c.numeric_scale, 0) || c.is_nullable || c.is_generated || c.is_identity, ',')"
                        + " WITHIN GROUP (ORDER BY c.ordinal_position) FROM information_schema.columns c"
                        + " WHERE c.table_schema <> 'INFORMATION_SCHEMA'")
                .add(Catalogue.among(" AND c.table_name", tables))
                .add(" GROUP BY c.table_schema, c.table_name UNION ALL SELECT NULL, NULL,"
                        + " (SELECT COUNT(*) || '/' || COALESCE(SUM(ORA_HASH(constraint_name || ' ' || unique_constraint_name"
                        + " || ' ' || delete_rule)), 0) FROM information_schema.referential_constraints)"
                        + " || ' ' || (SELECT COUNT(*) || '/' || COALESCE(SUM(ORA_HASH(constraint_name || ' ' || table_name"
                        + " || ' ' || column_name || ' ' || ordinal_position)), 0) FROM information_schema.key_column_usage)"
                        + " || ' ' || (SELECT COUNT(*) FROM information_schema.triggers)");
    }
}
