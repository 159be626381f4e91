// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

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

/**
 * H2: foreign keys are checked row by row, and they do not hold against a child row that somebody else is
 * about to insert.
 */
final class H2Dialect implements Dialect {

    @Override
    public String name() {
        return "H2";
    }

    @Override
    public Syntax syntax() {
        return new H2Syntax();
    }

    @Override
    public Catalogue catalogue() {
        return new H2Catalogue();
    }

    @Override
    public Locking locking() {
        return new H2Locking();
    }

    @Override
    public ForeignKeys foreignKeys() {
        return new H2ForeignKeys();
    }

    @Override
    public TemporaryTables temporaryTables() {
        return new H2TemporaryTables(syntax());
    }

    @Override
    public Values values() {
        return new H2Values();
    }

    @Override
    public RowImages images() {
        return new H2RowImages();
    }

    @Override
    public TableDefinitions definitions() {
        return new H2TableDefinitions(syntax());
    }

    @Override
    public ErrorClasses errors() {
        return new H2ErrorClasses();
    }

    @Override
    public Dropping dropping() {
        return new H2Dropping(syntax());
    }
}
