// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

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
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.jdbc.spi.Values;

/**
 * SQLite: one writer at a time, no row locks, no types but those of the values themselves, and foreign
 * keys that are off until somebody turns them on.
 */
final class SqliteDialect implements Dialect {

    @Override
    public String name() {
        return "SQLite";
    }

    @Override
    public Syntax syntax() {
        return new SqliteSyntax();
    }

    @Override
    public Catalogue catalogue() {
        return new SqliteCatalogue();
    }

    @Override
    public Locking locking() {
        return new SqliteLocking(syntax());
    }

    @Override
    public ForeignKeys foreignKeys() {
        return new SqliteForeignKeys();
    }

    @Override
    public TemporaryTables temporaryTables() {
        return new SqliteTemporaryTables(syntax());
    }

    @Override
    public Values values() {
        return new SqliteValues();
    }

    @Override
    public RowImages images() {
        return new SqliteRowImages();
    }

    @Override
    public TableDefinitions definitions() {
        return new SqliteTableDefinitions();
    }

    @Override
    public ErrorClasses errors() {
        return new SqliteErrorClasses();
    }

    @Override
    public BypassTriggers bypassTriggers() {
        return new SqliteBypassTriggers();
    }

    @Override
    public ChangeCounts changeCounts() {
        return new SqliteChangeCounts();
    }

    @Override
    public Dropping dropping() {
        return new SqliteDropping(syntax());
    }
}
