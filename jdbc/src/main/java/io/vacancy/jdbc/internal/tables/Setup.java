package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.trail.ChainHead;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * The statements that make Vacancy's own tables, version after version. A version that was ever released is never
 * changed; what is new becomes a version of its own.
 */
public final class Setup {

    /** The version that this program works with. */
    public static final int VERSION = 3;

    private final OwnTables tables;
    private final Dialect dialect;

    public Setup(OwnTables tables, Dialect dialect) {
        this.tables = tables;
        this.dialect = dialect;
    }

    /** What is to be run where a version is there; 0 where none is. */
    public List<String> from(int version, Instant now) {
        List<String> statements = new ArrayList<>();
        if (version < 1) {
            statements.addAll(first());
        }
        if (version < 2) {
            statements.addAll(second());
        }
        if (version < 3) {
            statements.addAll(third());
        }
        if (version < VERSION) {
            statements.add("INSERT INTO " + name("version") + " (version, made_at) VALUES (" + VERSION + ", '"
                    + Times.written(now) + "')");
        }
        return statements;
    }

    private List<String> first() {
        String text = dialect.definitions().longText();
        List<String> image = new ArrayList<>(List.of(
                "row_no " + dialect.definitions().numberingImages(),
                "receipt_no BIGINT NOT NULL",
                "line INTEGER NOT NULL",
                "back_no BIGINT"));
        image.addAll(dialect.images().encoding().definitions());
        return List.of(
                create("version", "version INTEGER NOT NULL PRIMARY KEY", "made_at VARCHAR(30) NOT NULL"),
                create(
                        "receipt",
                        "receipt_no " + dialect.definitions().numbering(),
                        "id VARCHAR(64) NOT NULL UNIQUE",
                        "table_name VARCHAR(255) NOT NULL",
                        "mode VARCHAR(20) NOT NULL",
                        "actor VARCHAR(255) NOT NULL",
                        "because " + text,
                        "made_at VARCHAR(30) NOT NULL",
                        "parts INTEGER NOT NULL"),
                create(
                        "part",
                        "receipt_no BIGINT NOT NULL",
                        "part INTEGER NOT NULL",
                        "made_at VARCHAR(30) NOT NULL",
                        "content " + text + " NOT NULL",
                        "PRIMARY KEY (receipt_no, part)"),
                create(
                        "line",
                        "receipt_no BIGINT NOT NULL",
                        "line INTEGER NOT NULL",
                        "part INTEGER NOT NULL",
                        "table_name VARCHAR(255) NOT NULL",
                        "links INTEGER NOT NULL",
                        "relation VARCHAR(255)",
                        "columns_kept " + text + " NOT NULL",
                        "rows_kept BIGINT NOT NULL",
                        "rows_there BIGINT NOT NULL",
                        "rows_left BIGINT NOT NULL",
                        "until_at VARCHAR(30)",
                        "PRIMARY KEY (receipt_no, line)"),
                create("image", image.toArray(String[]::new)),
                "CREATE INDEX " + dialect.syntax().quote(tables.prefix() + "image_line") + " ON " + name("image")
                        + " (receipt_no, line)",
                create(
                        "hold",
                        "hold_no " + dialect.definitions().numbering(),
                        "receipt_id VARCHAR(64)",
                        "table_name VARCHAR(255)",
                        "row_key " + text,
                        "actor VARCHAR(255) NOT NULL",
                        "because " + text + " NOT NULL",
                        "since_at VARCHAR(30) NOT NULL",
                        "released_by VARCHAR(255)",
                        "released_at VARCHAR(30)"));
    }

    /** The trail, its seals, and the outbox. */
    private List<String> second() {
        String text = dialect.definitions().longText();
        return List.of(
                create(
                        "trail",
                        "entry_no " + dialect.definitions().numbering(),
                        "id VARCHAR(36) NOT NULL UNIQUE",
                        "made_at VARCHAR(30) NOT NULL",
                        "kind VARCHAR(20) NOT NULL",
                        "ending VARCHAR(20) NOT NULL",
                        "actor VARCHAR(255) NOT NULL",
                        "receipt_id VARCHAR(64)",
                        "content " + text + " NOT NULL"),
                index("trail", "time", "made_at"),
                index("trail", "receipt", "receipt_id"),
                create(
                        "trail_row",
                        "entry_id VARCHAR(36) NOT NULL",
                        "table_name VARCHAR(255) NOT NULL",
                        "row_key VARCHAR(255)"),
                index("trail_row", "key", "table_name", "row_key"),
                index("trail_row", "entry", "entry_id"),
                create(
                        "seal",
                        "place_no BIGINT NOT NULL PRIMARY KEY",
                        "entry_id VARCHAR(36) NOT NULL UNIQUE",
                        "digest VARCHAR(64) NOT NULL",
                        "sealed_at VARCHAR(30) NOT NULL"),
                create("unsealed", "entry_id VARCHAR(36) NOT NULL PRIMARY KEY"),
                create(
                        "head",
                        "one INTEGER NOT NULL PRIMARY KEY",
                        "place_no BIGINT NOT NULL",
                        "digest VARCHAR(64) NOT NULL"),
                "INSERT INTO " + name("head") + " (one, place_no, digest) VALUES (1, 0, '" + ChainHead.NONE.digest()
                        + "')",
                create(
                        "outbox",
                        "event_no " + dialect.definitions().numbering(),
                        "id VARCHAR(36) NOT NULL",
                        "made_at VARCHAR(30) NOT NULL",
                        "content " + text + " NOT NULL",
                        "passed_at VARCHAR(30)"),
                index("outbox", "passed", "passed_at", "event_no"));
    }

    /** The identities of requests that were carried out. */
    private List<String> third() {
        return List.of(create(
                "request",
                "request_id VARCHAR(64) NOT NULL PRIMARY KEY",
                "actor VARCHAR(255) NOT NULL",
                "digest VARCHAR(64) NOT NULL",
                "receipt_id VARCHAR(64) NOT NULL",
                "made_at VARCHAR(30) NOT NULL"));
    }

    private String index(String table, String of, String... columns) {
        return "CREATE INDEX " + dialect.syntax().quote(tables.prefix() + table + "_" + of) + " ON " + name(table)
                + " (" + String.join(", ", columns) + ")";
    }

    private String create(String table, String... definitions) {
        return "CREATE TABLE " + name(table) + " (" + String.join(", ", definitions) + ")"
                + dialect.definitions().tableOptions();
    }

    private String name(String table) {
        return dialect.syntax().table(tables.table(table));
    }
}
