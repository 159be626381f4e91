// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TimeEncoding;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;

/** SQLite: how an engine writes names, values and the statements that every engine writes a little differently. */
final class SqliteSyntax implements Syntax {

    /** Dates and times are texts to it. */
    @Override
    public String literal(Object value) {
        return value instanceof LocalDate || value instanceof LocalDateTime
                ? "'" + value.toString().replace('T', ' ') + "'"
                : Syntax.super.literal(value);
    }

    @Override
    public String clock(ColumnType type) {
        TimeEncoding encoding = type.encoding();
        return encoding == null
                ? Syntax.super.clock(type)
                : switch (encoding) {
                    case ISO_DATE -> "date('now')";
                    case ISO_TIMESTAMP -> "strftime('%Y-%m-%dT%H:%M:%S', 'now')";
                    case SQL_TIMESTAMP -> "datetime('now')";
                    case EPOCH_SECONDS -> "CAST(strftime('%s', 'now') AS INTEGER)";
                    case EPOCH_MILLISECONDS -> "CAST(strftime('%s', 'now') AS INTEGER) * 1000";
                    case JULIAN_DAY -> "julianday('now')";
                };
    }

    /** Values find the column's type by themselves. */
    @Override
    public Sql typed(Sql value, ColumnType type) {
        return value;
    }

    @Override
    public String listOfTuples() {
        return " IN (VALUES ";
    }

    @Override
    public Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        return Syntax.inSubquery(expressions, keyTable, keyColumns, further);
    }

    @Override
    public String firstRows(long most) {
        return " LIMIT " + most;
    }

    /**
     * As SQLite's foreign keys compare (Foreign Key Support, 3): by the parent column's affinity and collation. The sign
     * takes the child column's own away; the operand on the left has the collation.
     */
    @Override
    public String joined(Relation relation, String parent, String child) {
        if (relation.list() || !relation.comparedByParent()) {
            return Syntax.super.joined(relation, parent, child);
        }
        List<String> equal = new ArrayList<>();
        for (int i = 0; i < relation.childColumns().size(); i++) {
            equal.add(parent + "." + quote(relation.parentColumns().get(i)) + " = +" + child + "."
                    + quote(relation.childColumns().get(i)));
        }
        return String.join(" AND ", equal);
    }

    @Override
    public String contains(String text, String part) {
        return "INSTR(" + text + ", " + part + ") > 0";
    }

    @Override
    public boolean insertsInBatches() {
        return true;
    }
}
