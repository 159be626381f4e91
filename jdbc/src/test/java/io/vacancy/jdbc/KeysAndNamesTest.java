// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.RowIdentity;
import io.vacancy.schema.Table;
import java.util.List;
import java.util.Map;

class KeysAndNamesTest {

    @OnEveryEngine
    void everyTypeThatKeysHaveIsReadFromText(Engine engine) {
        String uuid = engine == Engine.SQLITE ? "TEXT" : "UUID";
        String binary = engine == Engine.POSTGRESQL ? "BYTEA" : engine == Engine.SQLITE ? "BLOB" : "VARBINARY(20)";
        String bytes = engine == Engine.POSTGRESQL ? "'\\x0102'" : "X'0102'";
        Map<String, String[]> kinds = Map.of(
                "BIGINT",
                new String[] {"9007199254740993", "9007199254740993"},
                "SMALLINT",
                new String[] {"-3", "-3"},
                "VARCHAR(60)",
                new String[] {"'O''Hare; DROP TABLE x -- \u2603'", "O'Hare; DROP TABLE x -- \u2603"},
                "DECIMAL(12,3)",
                new String[] {"12.500", "12.5"},
                "DATE",
                new String[] {"'2026-05-01'", "2026-05-01"},
                "TIMESTAMP",
                new String[] {"'2026-05-01 14:30:00'", "2026-05-01T14:30:00"},
                uuid,
                new String[] {"'123e4567-e89b-12d3-a456-426614174000'", "123e4567-e89b-12d3-a456-426614174000"},
                binary,
                new String[] {bytes, "AQI="});

        kinds.forEach((type, value) -> {
            Bench bench = Bench.of(
                    engine,
                    "CREATE TABLE crate (k " + type + " NOT NULL PRIMARY KEY)",
                    "CREATE TABLE item (id INTEGER NOT NULL PRIMARY KEY, crate_k " + type + ","
                            + " FOREIGN KEY (crate_k) REFERENCES crate (k) ON DELETE CASCADE)",
                    "INSERT INTO crate VALUES (" + value[0] + ")",
                    "INSERT INTO item VALUES (1, " + value[0] + "), (2, NULL)");

            Receipt receipt = bench.vacancy()
                    .execute(Request.delete("crate").key(value[1]).expect(1))
                    .receiptOrThrow();

            assertThat(receipt.effects()).as(type).hasSize(2);
            assertThat(bench.count("crate")).isZero();
            assertThat(bench.count("item")).isEqualTo(1);
        });
    }

    @OnEveryEngine
    void aKeyThatCannotBeOneIsToldBeforeTheDatabaseIsAsked(Engine engine) {
        Bench bench = Bench.harbour(engine);

        for (String wrong : new String[] {"1 OR 1=1", "0x11", "99999999999999999999", "\u0000", "1.5", "''"}) {
            assertThatThrownBy(
                            () -> bench.vacancy().preview(Request.delete("boat").key(wrong)))
                    .as(wrong)
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("boat.id");
        }
    }

    @OnEveryEngine
    void compositeKeysAndForeignKeysToThemAndToUniqueKeysAreFollowed(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE slip (pier VARCHAR(10) NOT NULL, no INTEGER NOT NULL, tag VARCHAR(10) NOT NULL UNIQUE,"
                        + " PRIMARY KEY (pier, no))",
                "CREATE TABLE rope (id INTEGER NOT NULL PRIMARY KEY, s_no INTEGER, s_pier VARCHAR(10),"
                        + " FOREIGN KEY (s_pier, s_no) REFERENCES slip (pier, no) ON DELETE CASCADE)",
                "CREATE TABLE lamp (id INTEGER NOT NULL PRIMARY KEY, slip_tag VARCHAR(10),"
                        + " FOREIGN KEY (slip_tag) REFERENCES slip (tag) ON DELETE SET NULL)",
                "INSERT INTO slip VALUES ('N', 1, 't1'), ('N', 2, 't2'), ('S', 1, 't3')",
                // 3 refers to nothing: a NULL in any column of the key is enough for that.
                "INSERT INTO rope VALUES (1, 1, 'N'), (2, 2, 'N'), (3, 1, NULL), (4, 1, 'S')",
                "INSERT INTO lamp VALUES (1, 't1'), (2, 't2'), (3, NULL)");

        Receipt receipt = bench.vacancy()
                .execute(Request.delete("slip")
                        .keys(Key.of("pier", "N", "no", 1), "no=1,pier=S")
                        .expect(2))
                .receiptOrThrow();

        assertThat(DeletionTest.lines(receipt.effects()))
                .containsExactly("delete slip 2", "delete rope 2 rope(s_pier,s_no)", "set-null lamp 1 lamp.slip_tag");
        assertThat(bench.count("rope")).isEqualTo(2);
    }

    @OnEveryEngine
    void namesOfAnyKindAreTakenAsTheyAre(Engine engine) {
        String q = engine == Engine.MARIADB ? "`" : "\"";
        String boat = q + "Order's \"Boat\"".replace("\"", engine == Engine.MARIADB ? "\"" : "\"\"") + q;
        String select = q + "select" + q;
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE " + boat + " (" + q + "Id No" + q + " INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE " + select + " (id INTEGER NOT NULL PRIMARY KEY, " + q + "from" + q + " INTEGER,"
                        + " FOREIGN KEY (" + q + "from" + q + ") REFERENCES " + boat + " (" + q + "Id No" + q
                        + ") ON DELETE CASCADE)",
                "INSERT INTO " + boat + " VALUES (1)",
                "INSERT INTO " + select + " VALUES (1, 1)");

        Receipt receipt = bench.vacancy()
                .execute(Request.delete("Order's \"Boat\"").key(1).expect(1))
                .receiptOrThrow();

        assertThat(receipt.effects().get(1).relation()).isEqualTo("select.from");
    }

    @OnEveryEngine
    void theSchemaIsReadWithKeysActionsViewsTriggersAndGeneratedColumns(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE a (id INTEGER NOT NULL PRIMARY KEY, u VARCHAR(9) NOT NULL UNIQUE, w VARCHAR(9) UNIQUE,"
                        + " d INTEGER GENERATED ALWAYS AS (id * 2)"
                        + (List.of(Engine.H2, Engine.OTHER).contains(engine) ? "" : " STORED") + ")",
                "CREATE TABLE b (x VARCHAR(9) NOT NULL UNIQUE, a_id INTEGER, FOREIGN KEY (a_id) REFERENCES a (id))",
                "CREATE TABLE c (note VARCHAR(9))",
                "CREATE VIEW v AS SELECT id FROM a");

        Table a = bench.vacancy().schema().table("a");
        assertThat(a.identity().kind()).isEqualTo(RowIdentity.Kind.PRIMARY_KEY);
        assertThat(a.column("d").generated()).isTrue();
        assertThat(a.column("w").nullable()).isTrue();
        assertThat(a.column("u").nullable()).isFalse();
        assertThat(bench.vacancy().schema().table("b").identity().kind()).isEqualTo(RowIdentity.Kind.UNIQUE_KEY);
        assertThat(bench.vacancy().schema().table("c").identity().kind())
                .isEqualTo(
                        engine == Engine.MARIADB || engine == Engine.OTHER
                                ? RowIdentity.Kind.NONE
                                : RowIdentity.Kind.ENGINE_ROW_ID);
        assertThat(bench.vacancy().schema().table("v").view()).isTrue();
        assertThat(bench.vacancy().schema().relation("b.a_id").onDelete()).isIn(OnDelete.NO_ACTION, OnDelete.RESTRICT);
        // A row of a table that has only a unique key is named by that.
        bench.database().run("INSERT INTO b VALUES ('one', NULL)");
        assertThat(bench.vacancy().execute(Request.delete("b").key("one").expect(1)))
                .isInstanceOf(Outcome.Done.class);
        assertThat(bench.vacancy().preview(Request.delete("a").key(5)).state()).isEqualTo(Preview.State.NOTHING);
    }

    @OnEveryEngine
    void aTriggerIsNamedInThePreview(Engine engine) {
        Bench bench = Bench.harbour(engine);
        bench.database()
                .run(
                        switch (engine) {
                            case SQLITE ->
                                "CREATE TRIGGER watch AFTER DELETE ON fee BEGIN DELETE FROM yard WHERE id = 3; END";
                            case H2 ->
                                "CREATE TRIGGER watch AFTER DELETE ON fee FOR EACH ROW CALL 'org.h2.api.NothingTrigger'"
                                        .replace("org.h2.api.NothingTrigger", IdleTrigger.class.getName());
                            case POSTGRESQL ->
                                "CREATE FUNCTION watched() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN OLD; END';"
                                        + " CREATE TRIGGER watch BEFORE DELETE ON fee FOR EACH ROW EXECUTE FUNCTION watched()";
                            case MARIADB ->
                                "CREATE TRIGGER watch AFTER DELETE ON fee FOR EACH ROW DELETE FROM yard WHERE id = 3";
                            case OTHER ->
                                "CREATE TRIGGER watch AFTER DELETE ON fee REFERENCING OLD AS gone FOR EACH ROW"
                                        + " DELETE FROM yard WHERE id = 3";
                        });
        bench.vacancy().refresh();

        assertThat(bench.vacancy().preview(Request.delete("boat").key(17)).warnings())
                .containsExactly("Table fee has the trigger watch, which may change more than is shown here.");
    }

    /** A trigger of H2 that does nothing. */
    public static final class IdleTrigger implements org.h2.api.Trigger {
        @Override
        public void fire(java.sql.Connection connection, Object[] before, Object[] after) {}
    }

    @OnEveryEngine
    void aSchemaAlteredBehindItsBackIsNoticedBeforeAnythingGoes(Engine engine) {
        Bench bench = Bench.harbour(engine);
        bench.vacancy().schema();
        bench.database()
                .run(
                        "CREATE TABLE flag (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER,"
                                + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                        "INSERT INTO flag VALUES (1, 17)");

        Receipt receipt = bench.vacancy()
                .execute(Request.delete("boat").key(17).expect(1))
                .receiptOrThrow();

        assertThat(DeletionTest.lines(receipt.effects())).contains("delete flag 1 flag.boat_id");
    }
}
