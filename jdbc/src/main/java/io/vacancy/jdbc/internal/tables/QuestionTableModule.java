// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import java.util.List;

/** Questions that wait for their answer. */
public final class QuestionTableModule implements OwnTableModule {

    private static final String DECIDED_BY = "decided_by VARCHAR(255)";

    @Override
    public String name() {
        return "question";
    }

    @Override
    public int version() {
        return 2;
    }

    @Override
    public List<String> tables() {
        return List.of("question");
    }

    @Override
    public List<String> upgrade(int from, OwnTableScript script) {
        return from < 1
                ? first(script)
                : List.of(
                        script.addColumn("question", DECIDED_BY),
                        script.index("question", "state", "state", "asked_at"));
    }

    private static List<String> first(OwnTableScript script) {
        String text = script.dialect().definitions().longText();
        return List.of(
                script.create(
                        "question",
                        "id VARCHAR(64) NOT NULL PRIMARY KEY",
                        "actor VARCHAR(255) NOT NULL",
                        "scopes " + text,
                        "request " + text + " NOT NULL",
                        "fingerprint VARCHAR(255) NOT NULL",
                        "strength VARCHAR(20) NOT NULL",
                        "title " + text + " NOT NULL",
                        "awaited " + text,
                        "asked_at VARCHAR(30) NOT NULL",
                        "expires_at VARCHAR(30) NOT NULL",
                        "state VARCHAR(20) NOT NULL",
                        "wrong_answers INTEGER NOT NULL",
                        "receipt_id VARCHAR(64)",
                        DECIDED_BY),
                script.index("question", "time", "expires_at"),
                script.index("question", "state", "state", "asked_at"));
    }
}
