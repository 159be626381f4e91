// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.ChangeCounts;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Dropping;
import io.vacancy.jdbc.spi.ErrorClasses;
import io.vacancy.jdbc.spi.ForeignKeys;
import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TableDefinitions;
import io.vacancy.jdbc.spi.TableTruncation;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.jdbc.spi.Values;

/** PostgreSQL: types that do not mix, and a key table that goes with the transaction. */
final class PostgresqlDialect implements Dialect {

    @Override
    public String name() {
        return "PostgreSQL";
    }

    @Override
    public Catalogue catalogue() {
        return new PostgresqlCatalogue(syntax());
    }

    @Override
    public Syntax syntax() {
        return new PostgresqlSyntax();
    }

    @Override
    public Locking locking() {
        return new PostgresqlLocking();
    }

    @Override
    public ForeignKeys foreignKeys() {
        return new PostgresqlForeignKeys();
    }

    @Override
    public TemporaryTables temporaryTables() {
        return new PostgresqlTemporaryTables(syntax());
    }

    @Override
    public TableTruncation truncation() {
        return new PostgresqlTableTruncation(syntax());
    }

    @Override
    public Values values() {
        return new PostgresqlValues();
    }

    @Override
    public RowImages images() {
        return new PostgresqlRowImages();
    }

    @Override
    public TableDefinitions definitions() {
        return new PostgresqlTableDefinitions(syntax());
    }

    @Override
    public ErrorClasses errors() {
        return new PostgresqlErrorClasses();
    }

    @Override
    public BypassTriggers bypassTriggers() {
        return new PostgresqlBypassTriggers();
    }

    @Override
    public ChangeCounts changeCounts() {
        return new PostgresqlChangeCounts();
    }

    @Override
    public Dropping dropping() {
        return new PostgresqlDropping(syntax());
    }
}
