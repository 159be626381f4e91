// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.Collection;

/** PostgreSQL: how an engine tells of its tables. */
final class PostgresqlCatalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new PostgresqlSchemaReader();
    }

    @Override
    public String digest() {
        // A foreign key keeps triggers on both its tables, so this small table knows of both.
        return "SELECT (SELECT count(*) || '/' || coalesce(sum(oid::bigint * 128 + ascii(tgenabled::text)), 0) FROM pg_trigger)"
                + " || ' ' || (SELECT coalesce(sum(oid::bigint), 0) FROM pg_rewrite WHERE ev_type IN ('2', '4'))";
    }

    @Override
    public ColumnType rowIdType() {
        return ColumnType.of(ValueKind.OTHER, "tid");
    }

    @Override
    public Sql columnDigests(Collection<String> tables) {
        return Sql.of(
                        "SELECT n.nspname, c.relname, (SELECT string_agg(concat_ws(' ', a.attname, a.atttypid, a.atttypmod,"
                                + " a.attnotnull, a.attgenerated, a.attidentity), ',' ORDER BY a.attnum) FROM pg_attribute a"
                                + " WHERE a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped) || ' ' ||"
                                + " (SELECT coalesce(sum(i.indexrelid::bigint), 0) FROM pg_index i WHERE i.indrelid = c.oid"
                                + " AND i.indisunique) || c.relrowsecurity || c.relforcerowsecurity FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                                + " WHERE c.relkind IN ('r', 'p') AND n.nspname <> 'information_schema'"
                                + " AND n.nspname NOT LIKE 'pg\\_%'")
                .add(Catalogue.among(" AND c.relname", tables));
    }

    @Override
    public Sql policesSession(String table) {
        return Sql.of("SELECT CASE WHEN row_security_active(")
                .bind(table, OwnTables.TEXT)
                .add("::regclass) THEN 1 ELSE 0 END");
    }
}
