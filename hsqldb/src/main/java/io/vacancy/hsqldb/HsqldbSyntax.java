// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.Syntax;

/** Standard SQL but for two things. */
final class HsqldbSyntax implements Syntax {

    /** Its IS TRUE is unknown where the operand is, so that NOT loses such rows. */
    @Override
    public String isTruth(String operand, boolean truth) {
        return "CASE WHEN " + operand + " = " + (truth ? "TRUE" : "FALSE") + " THEN TRUE ELSE FALSE END";
    }

    /** It numbers the rows of a whole result only. */
    @Override
    public boolean numbersRowsInGroups() {
        return false;
    }

    @Override
    public String wholeText(String value) {
        return "CAST(" + value + " AS LONGVARCHAR)";
    }
}
