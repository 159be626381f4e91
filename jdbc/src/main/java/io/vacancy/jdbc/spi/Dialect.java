// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

/**
 * What one database engine does differently, concern by concern; where an engine keeps to standard SQL, the default of
 * a concern will do. Nothing else asks which engine it is on. Immutable; serves all threads.
 */
public interface Dialect {

    /** The engine's name for messages. */
    String name();

    /** How it tells of its tables. */
    Catalogue catalogue();

    /** What its errors mean. */
    ErrorClasses errors();

    /** How it checks foreign keys. */
    ForeignKeys foreignKeys();

    /** How it locks, and what a transaction sees. */
    Locking locking();

    /** How it keeps rows as images. */
    RowImages images();

    /** How it writes names, values and statements. */
    default Syntax syntax() {
        return new Syntax() {};
    }

    /** How values get through its driver. */
    default Values values() {
        return new Values() {};
    }

    /** How it makes tables for keys and rows of one transaction. */
    default TemporaryTables temporaryTables() {
        return this::syntax;
    }

    /** How it empties a table. */
    default TableTruncation truncation() {
        return this::syntax;
    }

    /** How it drops tables and columns. */
    default Dropping dropping() {
        return this::syntax;
    }

    /** How triggers see what is done around Vacancy. */
    default BypassTriggers bypassTriggers() {
        return new BypassTriggers() {};
    }

    /** How it counts what is changed. */
    default ChangeCounts changeCounts() {
        return new ChangeCounts() {};
    }

    /** What Vacancy's own tables are made of. */
    default TableDefinitions definitions() {
        return new TableDefinitions() {};
    }
}
