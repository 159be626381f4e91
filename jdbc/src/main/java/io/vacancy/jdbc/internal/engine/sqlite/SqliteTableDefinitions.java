// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.TableDefinitions;

/** SQLite: what Vacancy's own tables are made of, and how numbers go on after rows came back. */
final class SqliteTableDefinitions implements TableDefinitions {

    @Override
    public boolean hasPartialIndexes() {
        return true;
    }

    @Override
    public String numberingImages() {
        return numbering();
    }

    @Override
    public String numbering() {
        return "INTEGER PRIMARY KEY AUTOINCREMENT";
    }

    @Override
    public boolean definesInTransaction() {
        return true;
    }
}
