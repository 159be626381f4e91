// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import java.util.List;

/** The identities of requests that were carried out. */
public final class RequestTableModule implements OwnTableModule {

    @Override
    public String name() {
        return "request";
    }

    @Override
    public int version() {
        return 1;
    }

    @Override
    public List<String> tables() {
        return List.of("request");
    }

    @Override
    public List<String> upgrade(int from, OwnTableScript script) {
        return from < 1 ? first(script) : List.of();
    }

    private static List<String> first(OwnTableScript script) {
        return List.of(script.create(
                "request",
                "request_id VARCHAR(64) NOT NULL PRIMARY KEY",
                "actor VARCHAR(255) NOT NULL",
                "digest VARCHAR(64) NOT NULL",
                "receipt_id VARCHAR(64) NOT NULL",
                "made_at VARCHAR(30) NOT NULL"));
    }
}
