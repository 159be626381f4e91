// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import java.util.List;

/** What triggers record, and by what they know that a transaction is one of Vacancy's. */
public final class BypassTableModule implements OwnTableModule {

    /** What it is called in the table of modules. */
    public static final String NAME = "bypass";

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public int version() {
        return 1;
    }

    @Override
    public boolean optional() {
        return true;
    }

    @Override
    public List<String> tables() {
        return List.of("executing", NAME);
    }

    @Override
    public List<String> upgrade(int from, OwnTableScript script) {
        return from >= 1
                ? List.of()
                : List.of(
                        // A row is there only inside the transaction that executes a receipt; nobody else ever sees it.
                        script.create("executing", "receipt_id VARCHAR(64) NOT NULL PRIMARY KEY"),
                        script.create(
                                NAME,
                                "bypass_no " + script.dialect().definitions().numbering(),
                                "table_name VARCHAR(255) NOT NULL",
                                "row_key " + script.dialect().definitions().longText(),
                                "action VARCHAR(20) NOT NULL",
                                "made_at VARCHAR(30) NOT NULL",
                                "db_user VARCHAR(255)"));
    }
}
