// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.Relation;

/** How an engine checks foreign keys. The defaults are standard SQL. */
public interface ForeignKeys {

    /** How rows can go that refer to one another through columns which cannot be NULL. */
    enum ClosedCircle {
        /** Foreign keys are checked at commit, once that has been asked for. */
        DEFERRED,
        /** One statement removes rows of several tables and is checked at its end. */
        TOGETHER,
        /** A statement can be run without checks; the rows are locked against others meanwhile. */
        UNCHECKED,
        /** Row by row, those first that nothing refers to; impossible where several tables are involved. */
        LEAVES_FIRST
    }

    ClosedCircle closedCircle();

    /** The statement that has foreign keys checked at commit; only where circles are deferred. */
    default String deferChecks() {
        throw new UnsupportedOperationException("this engine does not defer checks");
    }

    /** A statement, or the beginning of one, without checks of foreign keys; only where circles are removed unchecked. */
    default String unchecked(String statement) {
        throw new UnsupportedOperationException("this engine always checks");
    }

    /** Whether a statement may remove rows that refer to one another, because it is judged at its end. */
    default boolean checksAfterStatement(Relation relation) {
        return false;
    }
}
