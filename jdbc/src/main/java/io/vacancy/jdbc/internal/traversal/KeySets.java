// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.RowIdentity;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Program;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Makes the sets that rows are found into, with the columns that later statements need of them. */
final class KeySets {

    private final Session session;
    private final Schema schema;
    private final Program program;
    private final ConditionCompiler terms;

    KeySets(Session session, Program program, ConditionCompiler terms) {
        this.session = session;
        this.schema = program.schema();
        this.program = program;
        this.terms = terms;
    }

    /** A set of rows of a table, inside the scope. */
    KeySet of(TableName table) {
        return rowSet(schema.table(table), false);
    }

    /** The same, with what other rows refer to in them. */
    KeySet referredTo(TableName table) {
        return rowSet(schema.table(table), true);
    }

    private KeySet rowSet(Table table, boolean referred) {
        Set<String> referredTo = new LinkedHashSet<>();
        if (referred) {
            // A program may follow a relation by more columns than its own.
            Stream.concat(schema.relationsTo(table.name()).stream(), program.relations().stream())
                    .filter(relation -> relation.parent().equals(table.name()))
                    .forEach(relation -> referredTo.addAll(relation.parentColumns()));
        }
        return rowSet(table, referredTo, terms.inScope(table.name()));
    }

    /** A set of rows of a table, inside the scope or not, that keeps what they refer to. */
    KeySet referring(TableName name) {
        Set<String> referring = new LinkedHashSet<>();
        schema.relationsFrom(name).stream()
                .filter(relation -> !relation.list())
                .forEach(relation -> referring.addAll(relation.childColumns()));
        return rowSet(schema.table(name), referring, null);
    }

    private KeySet rowSet(Table table, Set<String> besides, @Nullable Sql scope) {
        RowIdentity identity = table.identity();
        Set<String> names = new LinkedHashSet<>(identity.columns());
        if (!identity.exists()) {
            table.columns().forEach(column -> names.add(column.name()));
        }
        int identityWidth = names.size();
        names.addAll(besides);
        List<KeyColumn> columns =
                names.stream().map(name -> keyColumn(table, name)).toList();
        return new KeySet(session, table, columns, identityWidth, scope);
    }

    private KeyColumn keyColumn(Table table, String name) {
        boolean rowId = !table.has(name);
        ColumnType type = rowId
                ? session.dialect().catalogue().rowIdType()
                : table.column(name).type();
        return new KeyColumn(name, type, rowId);
    }
}
