// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.util.Collection;
import java.util.stream.Collectors;

/** PostgreSQL: how an engine tells of its tables. */
record PostgresqlCatalogue(Syntax syntax) implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new PostgresqlSchemaReader();
    }

    /**
     * Each part by an index of the catalogue, and the names as they are: with values beside it, the server plans it anew each time, which takes longer than to run it. Whatever
     * changes of a column writes its row of the catalogue anew, under the number of a later transaction; a foreign key keeps
     * triggers on both its tables, so these tell of it.
     */
    @Override
    public Sql definitions(Collection<String> tables) {
        Sql query = Sql.of(
                "SELECT c.relnamespace, c.relname, concat_ws(' ', c.oid, c.relrowsecurity, c.relforcerowsecurity,"
                        + " a.x, t.x, i.x,"
                        + " CASE WHEN c.relhasrules THEN (SELECT sum(r.oid::bigint) FROM pg_rewrite r WHERE r.ev_class = c.oid) END,"
                        + " CASE WHEN c.relhassubclass THEN (SELECT sum(h.inhrelid::bigint) FROM pg_inherits h"
                        + " WHERE h.inhparent = c.oid) END)"
                        + " FROM pg_class c CROSS JOIN LATERAL (SELECT sum(hashtextextended(a.xmin::text, a.attnum)) AS x"
                        + " FROM pg_attribute a WHERE a.attrelid = c.oid AND a.attnum > 0) a"
                        + " CROSS JOIN LATERAL (SELECT sum(t.oid::bigint * 128 + ascii(t.tgenabled::text)) AS x"
                        + " FROM pg_trigger t WHERE t.tgrelid = c.oid) t"
                        + " CROSS JOIN LATERAL (SELECT sum(i.indexrelid::bigint) AS x FROM pg_index i"
                        + " WHERE i.indrelid = c.oid AND i.indisunique) i"
                        + " WHERE c.relkind IN ('r', 'p') AND c.relnamespace NOT IN"
                        + " ('pg_catalog'::regnamespace, 'pg_toast'::regnamespace, 'information_schema'::regnamespace)");
        if (!tables.isEmpty()) {
            query.add(
                    tables.stream().map(syntax::literal).collect(Collectors.joining(", ", " AND c.relname IN (", ")")));
        }
        return query;
    }

    @Override
    public ColumnType rowIdType() {
        return ColumnType.of(ValueKind.OTHER, "tid");
    }

    @Override
    public Sql policesSession(String table) {
        return Sql.of("SELECT CASE WHEN row_security_active(")
                .bind(table, OwnTables.TEXT)
                .add("::regclass) THEN 1 ELSE 0 END");
    }
}
