// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelativeTime;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.sql.ConditionSql;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.KeyTemplate;
import io.vacancy.rules.RaisedVersion;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What one request means by conditions, scopes and values, as SQL on the rows of its tables. */
public final class ConditionCompiler {

    private final Session session;
    private final Schema schema;
    private final Map<TableName, Condition> scopes;
    private final ZonedDateTime now;

    /** @param now what conditions mean by today and now */
    public ConditionCompiler(Session session, Schema schema, Map<TableName, Condition> scopes, ZonedDateTime now) {
        this.session = session;
        this.schema = schema;
        this.scopes = scopes;
        this.now = now;
    }

    /** A condition on row t of a table. */
    Sql condition(TableName table, Condition which) {
        return condition(table, which, "t");
    }

    /** The same of the row under another alias. */
    public Sql condition(TableName table, Condition which, String alias) {
        return new ConditionSql(schema.table(table), session.dialect().syntax(), now, alias).write(which);
    }

    /** Whether row t of a table is inside the scope; null where every row is. */
    @Nullable
    Sql inScope(TableName table) {
        return inScope(table, "t");
    }

    /** The same of the row under another alias. */
    @Nullable
    public Sql inScope(TableName table, String alias) {
        Condition scope = scopes.get(table);
        return scope == null ? null : condition(table, new Condition.IsTrue(scope), alias);
    }

    /**
     * The same of a row that is to come back, as row t: its parents may come back with it, so what a scope says of them
     * holds for those that are there.
     */
    @Nullable
    public Sql inScopeComingBack(TableName table) {
        Condition scope = scopes.get(table);
        return scope == null ? null : condition(table, new Condition.IsTrue(ofLiveParents(scope)), "t");
    }

    private static Condition ofLiveParents(Condition scope) {
        if (scope instanceof Condition.All all) {
            return new Condition.All(
                    all.parts().stream().map(ConditionCompiler::ofLiveParents).toList());
        }
        if (!(scope instanceof Condition.Exists exists)
                || !(exists.related() instanceof RelatedRows.Resolved related)
                || related.side() != RelatedRows.Side.PARENT) {
            return scope;
        }
        return exists.which() == null
                ? scope.or(scope.not())
                : related.notExists(new Condition.IsTrue(exists.which()).not());
    }

    /** A moment as a value of a column. */
    Sql moment(RelativeTime moment, Column column) {
        return new Sql().bind(moment.at(now, column.type().kind()), column.type());
    }

    /** What an assignment writes into a column of row t. */
    public Sql value(Assignment assignment, Table table) {
        Column column = table.column(assignment.column());
        Object value = assignment.value();
        if (value == null) {
            return Sql.of("NULL");
        }
        if (value instanceof ColumnRef other) {
            return Sql.of("t."
                    + session.dialect()
                            .syntax()
                            .quote(table.column(other.name()).name()));
        }
        if (value instanceof KeyTemplate template) {
            return text(template, table, column.type());
        }
        if (value instanceof RaisedVersion && column.type().kind() == ValueKind.INTEGER) {
            String held = "t." + session.dialect().syntax().quote(column.name());
            return Sql.of("COALESCE(" + held + ", 0) + 1");
        }
        Object moment = value instanceof RaisedVersion ? RelativeTime.now() : value;
        Object settled =
                moment instanceof RelativeTime time ? time.at(now, column.type().kind()) : moment;
        return new Sql().bind(settled, column.type());
    }

    private Sql text(KeyTemplate template, Table table, ColumnType type) {
        Syntax syntax = session.dialect().syntax();
        List<Sql> parts = new ArrayList<>();
        for (KeyTemplate.Part part : template.parts()) {
            if (!part.text().isEmpty()) {
                parts.add(syntax.asText(new Sql().bind(part.text(), type)));
            }
            if (part.column() != null) {
                parts.add(syntax.asText(
                        Sql.of("t." + syntax.quote(table.column(part.column()).name()))));
            }
        }
        return syntax.concatenated(parts);
    }
}
