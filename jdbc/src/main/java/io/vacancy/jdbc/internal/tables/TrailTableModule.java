// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.trail.ChainHead;
import java.util.List;

/** The trail, its seals, and the outbox. */
public final class TrailTableModule implements OwnTableModule {

    @Override
    public String name() {
        return "trail";
    }

    @Override
    public int version() {
        return 1;
    }

    @Override
    public List<String> tables() {
        return List.of("trail", "trail_row", "seal", "unsealed", "head", "outbox");
    }

    @Override
    public List<String> upgrade(int from, OwnTableScript script) {
        return from < 1 ? first(script) : List.of();
    }

    private static List<String> first(OwnTableScript script) {
        String text = script.dialect().definitions().longText();
        return List.of(
                script.create(
                        "trail",
                        "entry_no " + script.dialect().definitions().numbering(),
                        "id VARCHAR(36) NOT NULL UNIQUE",
                        "made_at VARCHAR(30) NOT NULL",
                        "kind VARCHAR(20) NOT NULL",
                        "ending VARCHAR(20) NOT NULL",
                        "actor VARCHAR(255) NOT NULL",
                        "receipt_id VARCHAR(64)",
                        "content " + text + " NOT NULL"),
                script.index("trail", "time", "made_at"),
                script.index("trail", "receipt", "receipt_id"),
                script.create(
                        "trail_row",
                        "entry_id VARCHAR(36) NOT NULL",
                        "table_name VARCHAR(255) NOT NULL",
                        "row_key VARCHAR(255)"),
                script.index("trail_row", "key", "table_name", "row_key"),
                script.index("trail_row", "entry", "entry_id"),
                script.create(
                        "seal",
                        "place_no BIGINT NOT NULL PRIMARY KEY",
                        "entry_id VARCHAR(36) NOT NULL UNIQUE",
                        "digest VARCHAR(64) NOT NULL",
                        "sealed_at VARCHAR(30) NOT NULL"),
                script.create("unsealed", "entry_id VARCHAR(36) NOT NULL PRIMARY KEY"),
                script.create(
                        "head",
                        "one INTEGER NOT NULL PRIMARY KEY",
                        "place_no BIGINT NOT NULL",
                        "digest VARCHAR(64) NOT NULL"),
                "INSERT INTO " + script.name("head") + " (one, place_no, digest) VALUES (1, 0, '"
                        + ChainHead.NONE.digest() + "')",
                script.create(
                        "outbox",
                        "event_no " + script.dialect().definitions().numbering(),
                        "id VARCHAR(36) NOT NULL",
                        "made_at VARCHAR(30) NOT NULL",
                        "content " + text + " NOT NULL",
                        "passed_at VARCHAR(30)"),
                script.index("outbox", "passed", "passed_at", "event_no"));
    }
}
