// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.sql;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.All;
import io.vacancy.condition.Condition.Latest;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.stream.Collectors;

/** A view of the rows that are active. Of versions, a window function finds the current one. */
final class ActiveView {

    private static final int COLUMNS_ON_A_LINE = 6;

    private final Dialect dialect;
    private final Table table;

    ActiveView(Dialect dialect, Table table) {
        this.dialect = dialect;
        this.table = table;
    }

    String written(String name, Condition active) {
        StringBuilder columns = new StringBuilder();
        for (int i = 0; i < table.columns().size(); i++) {
            columns.append(i == 0 ? "" : i % COLUMNS_ON_A_LINE == 0 ? ",\n       " : ", ")
                    .append("t.")
                    .append(dialect.syntax().quote(table.columns().get(i).name()));
        }
        String view = "CREATE VIEW "
                + dialect.syntax().table(new TableName(table.name().schema(), name)) + " AS\nSELECT " + columns
                + "\n  FROM ";
        if (active instanceof All all && all.parts().get(0) instanceof Latest latest) {
            List<Condition> rest = all.parts().subList(1, all.parts().size());
            return view + ranked(latest) + " t\n WHERE t.version_rank = 1 AND " + literal(new All(rest));
        }
        return view + dialect.syntax().table(table.name()) + " t\n WHERE " + literal(active);
    }

    private String ranked(Latest latest) {
        Column start = table.column(latest.start());
        String of = latest.of().stream().map(dialect.syntax()::quote).collect(Collectors.joining(", "));
        String begin = dialect.syntax().quote(start.name());
        return "(SELECT s.*, ROW_NUMBER() OVER (PARTITION BY " + of + " ORDER BY " + begin
                + " DESC) AS version_rank\n          FROM " + dialect.syntax().table(table.name()) + " s WHERE s."
                + begin
                + " <= "
                + dialect.syntax().clock(start.type()) + ")";
    }

    private String literal(Condition condition) {
        Sql sql = ConditionSql.byTheEnginesClock(table, dialect.syntax(), "t").write(condition);
        return sql.inlined(bind -> dialect.syntax().literal(bind.value()));
    }
}
