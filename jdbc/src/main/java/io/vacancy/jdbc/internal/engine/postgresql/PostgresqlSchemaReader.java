// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.DeclaredType;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.SQLException;

/** PostgreSQL's catalogue, from its own tables, since the standard views are slow and leave out what it adds. */
public final class PostgresqlSchemaReader extends SchemaReader {

    private static final String OURS =
            " n.nspname NOT IN ('pg_catalog', 'information_schema') AND n.nspname NOT LIKE 'pg\\_t%' ";
    private static final String COLUMNS = """
            SELECT n.nspname, c.relname, c.relkind IN ('v', 'm'), a.attname,
                   format_type(coalesce(nullif(t.typbasetype, 0), a.atttypid),
                               CASE WHEN t.typbasetype = 0 THEN a.atttypmod ELSE t.typtypmod END),
                   NOT a.attnotnull AND NOT t.typnotnull, a.attgenerated <> '',
                   a.attidentity <> '' OR coalesce(pg_get_expr(d.adbin, d.adrelid), '') LIKE 'nextval(%',
                   pg_get_expr(d.adbin, d.adrelid)
              FROM pg_class c
              JOIN pg_namespace n ON n.oid = c.relnamespace
              JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
              JOIN pg_type t ON t.oid = a.atttypid
              LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum
             WHERE c.relkind IN ('r', 'p', 'v', 'm') AND NOT c.relispartition AND""" + OURS + "ORDER BY n.nspname, c.relname, a.attnum";
    private static final String INDEXES = """
            SELECT n.nspname, c.relname, x.relname, a.attname, i.indisunique, i.indpred IS NULL, i.indisprimary
              FROM pg_index i
              JOIN pg_class c ON c.oid = i.indrelid AND NOT c.relispartition
              JOIN pg_namespace n ON n.oid = c.relnamespace
              JOIN pg_class x ON x.oid = i.indexrelid
             CROSS JOIN LATERAL unnest(i.indkey) WITH ORDINALITY k(attnum, position)
              JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = k.attnum
             WHERE i.indexprs IS NULL AND k.position <= i.indnkeyatts AND""" + OURS + "ORDER BY n.nspname, c.relname, x.relname, k.position";
    private static final String FOREIGN_KEYS = """
            SELECT n.nspname, t.relname, c.conname, fa.attname, rn.nspname, rt.relname, pa.attname,
                   c.confdeltype, c.condeferrable
              FROM pg_constraint c
              JOIN pg_class t ON t.oid = c.conrelid
              JOIN pg_namespace n ON n.oid = t.relnamespace
              JOIN pg_class rt ON rt.oid = c.confrelid
              JOIN pg_namespace rn ON rn.oid = rt.relnamespace
             CROSS JOIN LATERAL unnest(c.conkey, c.confkey) WITH ORDINALITY k(fk, pk, position)
              JOIN pg_attribute fa ON fa.attrelid = c.conrelid AND fa.attnum = k.fk
              JOIN pg_attribute pa ON pa.attrelid = c.confrelid AND pa.attnum = k.pk
             WHERE c.contype = 'f' AND c.conparentid = 0 AND""" + OURS + "ORDER BY n.nspname, t.relname, c.conname, k.position";
    private static final String TRIGGERS = """
            SELECT n.nspname, c.relname, t.tgname
              FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid JOIN pg_namespace n ON n.oid = c.relnamespace
             WHERE NOT t.tgisinternal AND t.tgenabled <> 'D'
            UNION ALL
            SELECT n.nspname, c.relname, r.rulename
              FROM pg_rewrite r JOIN pg_class c ON c.oid = r.ev_class JOIN pg_namespace n ON n.oid = c.relnamespace
             WHERE c.relkind IN ('r', 'p') AND r.ev_type IN ('2', '4') AND r.ev_enabled <> 'D'
             ORDER BY 1, 2, 3""";

    @Override
    protected void ask(Connection connection) throws SQLException {
        each(connection, "SELECT current_schema()", rows -> defaultSchema(rows.getString(1)));
        columns(connection, COLUMNS);
        each(connection, INDEXES, rows -> {
            TableName table = name(rows.getString(1), rows.getString(2));
            if (rows.getBoolean(7)) {
                primaryKeyColumn(table, rows.getString(4));
            } else if (!rows.getBoolean(6)) {
                if (rows.getBoolean(5)) {
                    partialUniqueKeyColumn(table, rows.getString(3), rows.getString(4));
                }
            } else {
                indexColumn(table, rows.getString(3), rows.getString(4), rows.getBoolean(5));
            }
        });
        each(
                connection,
                FOREIGN_KEYS,
                rows -> link(
                        name(rows.getString(1), rows.getString(2)),
                        rows.getString(3),
                        rows.getString(4),
                        name(rows.getString(5), rows.getString(6)),
                        rows.getString(7),
                        action(rows.getString(8)),
                        rows.getBoolean(9)));
        each(
                connection,
                "SELECT n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relrowsecurity",
                rows -> policed(name(rows.getString(1), rows.getString(2))));
        each(
                connection,
                "SELECT n.nspname, p.relname, hn.nspname, h.relname FROM pg_inherits i"
                        + " JOIN pg_class p ON p.oid = i.inhparent AND p.relkind = 'r'"
                        + " JOIN pg_namespace n ON n.oid = p.relnamespace JOIN pg_class h ON h.oid = i.inhrelid"
                        + " JOIN pg_namespace hn ON hn.oid = h.relnamespace ORDER BY 1, 2, 3, 4",
                rows -> heir(name(rows.getString(1), rows.getString(2)), name(rows.getString(3), rows.getString(4))));
        each(connection, TRIGGERS, rows -> trigger(name(rows.getString(1), rows.getString(2)), rows.getString(3)));
    }

    private static OnDelete action(String letter) {
        return switch (letter) {
            case "c" -> OnDelete.CASCADE;
            case "n" -> OnDelete.SET_NULL;
            case "d" -> OnDelete.SET_DEFAULT;
            case "r" -> OnDelete.RESTRICT;
            default -> OnDelete.NO_ACTION;
        };
    }

    @Override
    protected ValueKind kind(DeclaredType type) {
        return switch (type.base()) {
            case "smallint", "integer", "bigint" -> ValueKind.INTEGER;
            case "numeric" -> ValueKind.DECIMAL;
            case "real", "double precision" -> ValueKind.FLOATING;
            case "character varying", "text", "character", "bpchar" -> ValueKind.TEXT;
            case "boolean" -> ValueKind.BOOLEAN;
            case "date" -> ValueKind.DATE;
            case "time without time zone" -> ValueKind.TIME;
            case "timestamp without time zone" -> ValueKind.TIMESTAMP;
            case "timestamp with time zone" -> ValueKind.INSTANT;
            case "uuid" -> ValueKind.UUID;
            case "bytea" -> ValueKind.BINARY;
            default -> ValueKind.OTHER;
        };
    }

    @Override
    protected String rowId() {
        return "ctid";
    }
}
