// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.ErrorClasses;
import io.vacancy.jdbc.spi.ForeignKeys;
import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TableDefinitions;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.Relation;
import java.util.Collection;

/** HSQLDB: whole tables are locked, and constraints are judged when a statement ends. */
final class HsqldbDialect implements Dialect {

    @Override
    public String name() {
        return "HSQLDB";
    }

    @Override
    public Catalogue catalogue() {
        return new Catalogue() {
            @Override
            public SchemaReader reader() {
                return new HsqldbSchemaReader();
            }

            @Override
            public Sql definitions(Collection<String> tables) {
                return Sql.of("""
                        SELECT CAST(NULL AS VARCHAR(1)), CAST(NULL AS VARCHAR(1)), CAST((SELECT COUNT(*) FROM INFORMATION_SCHEMA.REFERENTIAL_CONSTRAINTS) AS VARCHAR(20))
                            || '/' || COALESCE((SELECT GROUP_CONCAT(CONSTRAINT_NAME || DELETE_RULE ORDER BY CONSTRAINT_NAME)
                                         FROM INFORMATION_SCHEMA.REFERENTIAL_CONSTRAINTS), '')
                            || ' ' || CAST((SELECT COUNT(*) FROM INFORMATION_SCHEMA.TRIGGERS) AS VARCHAR(20))
                          FROM (VALUES (0))""");
            }
        };
    }

    @Override
    public ErrorClasses errors() {
        return exception -> {
            String state = String.valueOf(exception.getSQLState());
            return state.startsWith("40") ? ErrorClasses.Fault.DEADLOCK : ErrorClasses.standard(state);
        };
    }

    @Override
    public ForeignKeys foreignKeys() {
        return new ForeignKeys() {
            @Override
            public ClosedCircle closedCircle() {
                return ClosedCircle.LEAVES_FIRST;
            }

            @Override
            public boolean checksAfterStatement(Relation relation) {
                return true;
            }
        };
    }

    @Override
    public Syntax syntax() {
        return new HsqldbSyntax();
    }

    @Override
    public Locking locking() {
        return new HsqldbLocking(syntax());
    }

    @Override
    public TemporaryTables temporaryTables() {
        return new HsqldbTemporaryTables(syntax());
    }

    @Override
    public RowImages images() {
        return new HsqldbRowImages();
    }

    @Override
    public TableDefinitions definitions() {
        return new TableDefinitions() {
            @Override
            public String longText() {
                return "LONGVARCHAR";
            }

            @Override
            public String renameColumn(String table, String column, String to) {
                return "ALTER TABLE " + table + " ALTER COLUMN " + column + " RENAME TO " + to;
            }
        };
    }
}
