// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.request.Request;
import io.vacancy.spi.HashChain;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.MacKey;
import io.vacancy.trail.Verification;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Duration;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Whoever changes the trail is found out, wherever it was. */
class TamperingTest {

    private static final int ENTRIES = 14;
    private static final int TIMES = Integer.getInteger("vacancy.crashes", 5) / 5;
    private static final List<String> TABLES = List.of("trail", "trail_row", "seal", "unsealed", "head", "part");
    private static final byte[] SECRET = "known to the auditors".getBytes(StandardCharsets.UTF_8);

    /** What somebody does who may write to every table; {@code N} is a place, {@code M} another one. */
    private enum Tampering {
        CONTENT("UPDATE vacancy_trail SET content = REPLACE(content, 'Mira Holm', 'Mira Helm') WHERE id = @N"),
        ACTOR("UPDATE vacancy_trail SET actor = 'Jonas Reik' WHERE id = @N"),
        TIME("UPDATE vacancy_trail SET made_at = '2020-01-01T00:00:00.000000Z' WHERE id = @N"),
        KIND("UPDATE vacancy_trail SET kind = 'purge' WHERE id = @N"),
        ENDING("UPDATE vacancy_trail SET ending = 'declined' WHERE id = @N"),
        RECEIPT("UPDATE vacancy_trail SET receipt_id = NULL WHERE id = @N"),
        HIDDEN_KEY("DELETE FROM vacancy_trail_row WHERE entry_id = @N AND row_key IS NOT NULL"),
        OTHER_KEY("INSERT INTO vacancy_trail_row (entry_id, table_name, row_key) VALUES (@N, 'buoy', '99')"),
        REMOVED("DELETE FROM vacancy_trail WHERE id = @N"),
        REMOVED_WITH_ITS_SEAL("DELETE FROM vacancy_trail WHERE id = @N", "DELETE FROM vacancy_seal WHERE place_no = N"),
        REMOVED_AND_CLOSED_UP(
                "DELETE FROM vacancy_trail WHERE id = @N",
                "DELETE FROM vacancy_seal WHERE place_no = N",
                "UPDATE vacancy_seal SET place_no = -place_no WHERE place_no > N",
                "UPDATE vacancy_seal SET place_no = -place_no - 1 WHERE place_no < 0",
                "UPDATE vacancy_head SET place_no = place_no - 1"),
        DIGEST("UPDATE vacancy_seal SET digest = '" + "ab".repeat(32) + "' WHERE place_no = N"),
        NONSENSE("UPDATE vacancy_seal SET digest = 'nonsense' WHERE place_no = N"),
        REORDERED(
                "UPDATE vacancy_seal SET place_no = -1 WHERE place_no = N",
                "UPDATE vacancy_seal SET place_no = N WHERE place_no = M",
                "UPDATE vacancy_seal SET place_no = M WHERE place_no = -1"),
        EXCHANGED(
                "UPDATE vacancy_trail SET id = 'aside' WHERE id = @N",
                "UPDATE vacancy_trail SET id = @N WHERE id = @M",
                "UPDATE vacancy_trail SET id = @M WHERE id = 'aside'"),
        INSERTED("INSERT INTO vacancy_trail (id, made_at, kind, ending, actor, content) SELECT 'inserted', made_at,"
                + " kind, ending, actor, content FROM vacancy_trail WHERE id = @N"),
        INSERTED_WITH_A_SEAL(
                "UPDATE vacancy_seal SET place_no = -place_no WHERE place_no >= N",
                "UPDATE vacancy_seal SET place_no = -place_no + 1 WHERE place_no < 0",
                "INSERT INTO vacancy_trail (id, made_at, kind, ending, actor, content) SELECT 'inserted', made_at,"
                        + " kind, ending, actor, content FROM vacancy_trail WHERE id = @N",
                "INSERT INTO vacancy_seal (place_no, entry_id, digest, sealed_at) VALUES (N, 'inserted', '"
                        + "cd".repeat(32) + "', 'now')",
                "UPDATE vacancy_head SET place_no = place_no + 1"),
        RECEIPT_DOCUMENT(
                "UPDATE vacancy_part SET content = REPLACE(content, 'Mira Holm', 'Mira Helm') WHERE receipt_no = N"),
        RECEIPT_OF_ANOTHER(
                "UPDATE vacancy_part SET receipt_no = -1 WHERE receipt_no = N",
                "UPDATE vacancy_part SET receipt_no = N WHERE receipt_no = M",
                "UPDATE vacancy_part SET receipt_no = M WHERE receipt_no = -1"),
        RECEIPT_GONE("DELETE FROM vacancy_part WHERE receipt_no = N"),
        TAIL("DELETE FROM vacancy_seal WHERE place_no >= N"),
        HEAD("UPDATE vacancy_head SET place_no = N - 1"),
        NO_HEAD("DELETE FROM vacancy_head"),
        NEVER_SEALED("DELETE FROM vacancy_unsealed"),
        GONE_BEFORE_ITS_SEAL("DELETE FROM vacancy_trail WHERE id IN (SELECT entry_id FROM vacancy_unsealed)");

        private final List<String> statements;

        Tampering(String... statements) {
            this.statements = List.of(statements);
        }
    }

    private static Bench sealed(Engine engine, Vacancy[] opened) {
        return sealed(engine, opened, true);
    }

    private static Bench sealed(Engine engine, Vacancy[] opened, boolean secret) {
        Bench bench = Bench.of(engine, "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY)");
        bench.vacancy().archive().setUp();
        Vacancy.Builder opening = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .sealEvery(Duration.ofDays(1));
        Vacancy vacancy = (secret ? opening.sealKey(SECRET) : opening).open();
        for (int i = 0; i <= ENTRIES; i++) {
            bench.database().run("INSERT INTO buoy VALUES (" + i + ")");
            if (i == ENTRIES) {
                vacancy.trail().seal();
            }
            vacancy.execute(Request.delete("buoy").key(i).expect(1)).receiptOrThrow();
        }
        // The last one waits for its seal.
        TABLES.forEach(
                table -> bench.database().run("CREATE TABLE copy_" + table + " AS SELECT * FROM vacancy_" + table));
        opened[0] = vacancy;
        return bench;
    }

    private static void undo(Bench bench) {
        TABLES.forEach(table -> bench.database()
                .run("DELETE FROM vacancy_" + table, "INSERT INTO vacancy_" + table + " SELECT * FROM copy_" + table));
    }

    private static String entry(int place) {
        return "(SELECT entry_id FROM copy_seal WHERE place_no = " + place + ")";
    }

    @OnEveryEngine
    void anyTamperingIsFound(Engine engine) {
        anyTamperingIsFound(engine, true);
    }

    /** By who does not compute seals anew; without a secret anybody could. */
    @OnEveryEngine
    void anyTamperingIsFoundWithoutASecretToo(Engine engine) {
        anyTamperingIsFound(engine, false);
    }

    private static void anyTamperingIsFound(Engine engine, boolean secret) {
        Random random = new Random(engine.ordinal());
        Vacancy[] opened = new Vacancy[1];
        Bench bench = sealed(engine, opened, secret);
        Vacancy vacancy = opened[0];
        Verification verified = vacancy.trail().verify();
        assertThat(verified)
                .returns(true, Verification::verified)
                .returns(1L, Verification::unsealed)
                .returns((long) ENTRIES, found -> found.head().position());

        for (Tampering tampering : Tampering.values()) {
            for (int again = 0; again < TIMES; again++) {
                int place = 1 + random.nextInt(ENTRIES);
                int other = 1 + (place + random.nextInt(ENTRIES - 1)) % ENTRIES;
                for (String statement : tampering.statements) {
                    bench.database()
                            .run(statement
                                    .replace("@N", entry(place))
                                    .replace("@M", entry(other))
                                    .replaceAll("\\bN\\b", Integer.toString(place))
                                    .replaceAll("\\bM\\b", Integer.toString(other)));
                }
                Verification found = vacancy.trail().verify();
                assertThat(found.verified())
                        .as(tampering + " at " + place + ", " + other)
                        .isFalse();
                IntegrityViolation flaw = found.flaw();
                assertThat(flaw).isNotNull();
                if (flaw.position() > 0) {
                    assertThat(flaw.position())
                            .as(tampering + " at " + place + ", " + other)
                            .isLessThanOrEqualTo(ENTRIES + 1)
                            .isGreaterThanOrEqualTo(Math.min(place, other));
                }
                undo(bench);
            }
        }
        assertThat(vacancy.trail().verify()).isEqualTo(verified);
    }

    @OnEveryEngine
    void aCutTailShowsAgainstAHeadThatWasKeptElsewhere(Engine engine) {
        Vacancy[] opened = new Vacancy[1];
        Bench bench = sealed(engine, opened);
        Vacancy vacancy = opened[0];
        ChainHead kept = vacancy.trail().verify().head();
        String last = "(SELECT digest FROM copy_seal WHERE place_no = 9)";
        bench.database()
                .run(
                        "DELETE FROM vacancy_seal WHERE place_no > 9",
                        "DELETE FROM vacancy_trail WHERE id NOT IN (SELECT entry_id FROM vacancy_seal)",
                        "DELETE FROM vacancy_unsealed",
                        "UPDATE vacancy_head SET place_no = 9, digest = " + last);

        // From the inside it is a shorter trail like any other.
        assertThat(vacancy.trail().verify().verified()).isTrue();
        assertThat(vacancy.trail().verify(kept).flaw())
                .isNotNull()
                .returns(IntegrityViolation.Kind.CUT, IntegrityViolation::kind);
        ChainHead before = vacancy.trail().verify().head();
        assertThat(before.position()).isEqualTo(9);
        assertThat(vacancy.trail().verify(before).verified()).isTrue();
    }

    /** Whoever may write everything but has no secret can compute other seals, and they are not the right ones. */
    @OnEveryEngine
    void aTrailThatWasSealedAnewWithoutTheSecretIsFound(Engine engine) {
        Vacancy[] opened = new Vacancy[1];
        Bench bench = sealed(engine, opened);
        Vacancy vacancy = opened[0];
        ChainHead kept = vacancy.trail().verify().head();
        Vacancy forger = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .open();
        bench.database()
                .run(
                        "UPDATE vacancy_trail SET content = REPLACE(content, 'Mira Holm', 'Mira Helm'),"
                                + " actor = 'Mira Helm'",
                        "DELETE FROM vacancy_seal",
                        "DELETE FROM vacancy_unsealed",
                        "INSERT INTO vacancy_unsealed SELECT id FROM vacancy_trail",
                        "UPDATE vacancy_head SET place_no = 0, digest = '" + ChainHead.NONE.digest() + "'");
        forger.trail().seal();

        assertThat(forger.trail().verify().verified()).isTrue();
        assertThat(forger.trail().verify(kept).verified()).isFalse();
        assertThat(vacancy.trail().verify().flaw()).isNotNull().returns(1L, IntegrityViolation::position);
    }

    @Test
    void sealsAreWhatTheirDescriptionSays() throws Exception {
        MessageDigest sha = MessageDigest.getInstance("SHA-256");
        sha.update(new byte[32]);
        sha.update(new byte[] {0, 0, 0, 0, 0, 0, 0, 1});
        String plain = HexFormat.of().formatHex(sha.digest("{\"ü\":1}".getBytes(StandardCharsets.UTF_8)));

        assertThat(new HashChain(null).after(ChainHead.NONE, "{\"ü\":1}")).isEqualTo(new ChainHead(1, plain));
        assertThat(new HashChain(MacKey.of(SECRET)).after(ChainHead.NONE, "{\"ü\":1}"))
                .returns(1L, ChainHead::position)
                .isNotEqualTo(new ChainHead(1, plain));
        assertThat(ChainHead.read("1:" + plain)).hasToString("1:" + plain);
    }
}
