// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import java.util.ArrayList;
import java.util.List;

/** Receipts and their parts, images of rows, holds. */
public final class ArchiveTableModule implements OwnTableModule {

    private static final String ROWS = "rows_affected BIGINT";
    /** In milliseconds. */
    private static final String TOOK = "took_ms BIGINT";

    @Override
    public String name() {
        return "archive";
    }

    @Override
    public int version() {
        return 5;
    }

    @Override
    public List<String> tables() {
        return List.of("receipt", "part", "line", "image", "hold");
    }

    @Override
    public List<String> upgrade(int from, OwnTableScript script) {
        if (from < 1) {
            return create(script);
        }
        List<String> statements = new ArrayList<>();
        if (from < 2) {
            statements.add(script.renameColumn("line", "columns_kept", "archived_columns"));
            statements.add(script.renameColumn("line", "rows_kept", "rows_archived"));
        }
        if (from < 3) {
            // What was kept before nobody knows the scope of: it is there for those without one.
            statements.add(script.addColumn(
                    "receipt", "scopes " + script.dialect().definitions().longText()));
        }
        if (from < 4) {
            statements.add(script.renameColumn("line", "links", "kind"));
            for (String column : script.dialect().images().encoding().overflow()) {
                statements.add(script.addColumn("image", column));
            }
        }
        statements.add(script.addColumn("part", ROWS));
        statements.add(script.addColumn("part", TOOK));
        return statements;
    }

    private static List<String> create(OwnTableScript script) {
        String text = script.dialect().definitions().longText();
        List<String> image = new ArrayList<>(List.of(
                "row_no " + script.dialect().definitions().numberingImages(),
                "receipt_no BIGINT NOT NULL",
                "line INTEGER NOT NULL",
                "back_no BIGINT"));
        image.addAll(script.dialect().images().encoding().definitions());
        return List.of(
                script.create(
                        "receipt",
                        "receipt_no " + script.dialect().definitions().numbering(),
                        "id VARCHAR(64) NOT NULL UNIQUE",
                        "table_name VARCHAR(255) NOT NULL",
                        "mode VARCHAR(20) NOT NULL",
                        "actor VARCHAR(255) NOT NULL",
                        "because " + text,
                        "made_at VARCHAR(30) NOT NULL",
                        "scopes " + text,
                        "parts INTEGER NOT NULL"),
                script.create(
                        "part",
                        "receipt_no BIGINT NOT NULL",
                        "part INTEGER NOT NULL",
                        "made_at VARCHAR(30) NOT NULL",
                        "content " + text + " NOT NULL",
                        ROWS,
                        TOOK,
                        "PRIMARY KEY (receipt_no, part)"),
                script.create(
                        "line",
                        "receipt_no BIGINT NOT NULL",
                        "line INTEGER NOT NULL",
                        "part INTEGER NOT NULL",
                        "table_name VARCHAR(255) NOT NULL",
                        "kind INTEGER NOT NULL",
                        "relation VARCHAR(255)",
                        "archived_columns " + text + " NOT NULL",
                        "rows_archived BIGINT NOT NULL",
                        "rows_there BIGINT NOT NULL",
                        "rows_left BIGINT NOT NULL",
                        "until_at VARCHAR(30)",
                        "PRIMARY KEY (receipt_no, line)"),
                script.create("image", image.toArray(String[]::new)),
                script.index("image", "line", "receipt_no", "line"),
                script.create(
                        "hold",
                        "hold_no " + script.dialect().definitions().numbering(),
                        "receipt_id VARCHAR(64)",
                        "table_name VARCHAR(255)",
                        "row_key " + text,
                        "actor VARCHAR(255) NOT NULL",
                        "because " + text + " NOT NULL",
                        "since_at VARCHAR(30) NOT NULL",
                        "released_by VARCHAR(255)",
                        "released_at VARCHAR(30)"));
    }
}
