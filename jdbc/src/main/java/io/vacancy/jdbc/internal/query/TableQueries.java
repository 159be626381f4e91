// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.query;

import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.jdbc.internal.execute.StoreContext;
import io.vacancy.jdbc.internal.sql.ConditionSql;
import io.vacancy.jdbc.internal.traversal.Orphans;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.RowSample;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Looks at tables and relations, apart from any request. */
public record TableQueries(StoreContext context) {

    /** Child rows whose parent is missing, by relation; relations without any are left out. */
    public Map<Relation, RowSample> orphans(
            List<Relation> relations, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Schema schema = context.schema();
        return context.looking(null, monitor, session -> {
            Map<Relation, RowSample> orphans = new LinkedHashMap<>();
            for (Relation relation : relations) {
                RowSample found = Orphans.of(relation, schema, session, scopes.get(relation.child()));
                if (found.rows() > 0) {
                    orphans.put(relation, found);
                }
            }
            return orphans;
        });
    }

    /** How many rows tables have, inside the scopes. */
    public Map<TableName, Long> counts(
            List<TableName> tables, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Schema schema = context.schema();
        return context.looking(null, monitor, session -> {
            Map<TableName, Long> counts = new LinkedHashMap<>();
            for (TableName table : tables) {
                counts.put(table, new Rows(session, schema.table(table)).count(scopes.get(table)));
            }
            return counts;
        });
    }

    /** How many child rows refer to parents for which a condition holds. */
    public long children(Relation relation, @Nullable Condition child, Condition parent, ExecutionMonitor monitor) {
        Schema schema = context.schema();
        return context.looking(null, monitor, session -> Orphans.children(relation, schema, session, child, parent));
    }

    /** A condition in the engine's SQL, with its values apart. */
    public SqlText written(Table table, Condition condition, String alias, ZonedDateTime now) {
        Dialect dialect = context.dialect();
        Sql sql = new ConditionSql(table, dialect.syntax(), now, alias).write(condition);
        return new SqlText(
                sql.text(),
                sql.binds().stream()
                        .map(bind -> dialect.values().plain(bind.value()))
                        .toList());
    }
}
