// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.Catalogue;
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

/** MariaDB with InnoDB: foreign keys are checked row by row, and identifiers are quoted in its own way. */
final class MariadbDialect implements Dialect {

    private final Locking locking = new MariadbLocking();

    @Override
    public String name() {
        return "MariaDB";
    }

    @Override
    public Syntax syntax() {
        return new MariadbSyntax();
    }

    @Override
    public Catalogue catalogue() {
        return new MariadbCatalogue();
    }

    @Override
    public Locking locking() {
        return locking;
    }

    @Override
    public ForeignKeys foreignKeys() {
        return new MariadbForeignKeys();
    }

    @Override
    public TemporaryTables temporaryTables() {
        return new MariadbTemporaryTables(syntax());
    }

    @Override
    public Values values() {
        return new MariadbValues();
    }

    @Override
    public RowImages images() {
        return new MariadbRowImages();
    }

    @Override
    public TableDefinitions definitions() {
        return new MariadbTableDefinitions();
    }

    @Override
    public ErrorClasses errors() {
        return new MariadbErrorClasses();
    }

    @Override
    public BypassTriggers bypassTriggers() {
        return new MariadbBypassTriggers();
    }

    @Override
    public Dropping dropping() {
        return new MariadbDropping(syntax());
    }
}
