// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.preview.Action;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

class FingerprintTest {

    private static final TableName BOAT = TableName.of("boat");
    private static final TableName FEE = TableName.of("fee");

    @Test
    void doesNotDependOnTheOrderOfRows() {
        String oneWay = of(print -> {
            print.effect(Action.DELETE, BOAT, List.of(1L), null);
            print.effect(Action.DELETE, FEE, List.of(2L), null);
        });
        String other = of(print -> {
            print.effect(Action.DELETE, FEE, List.of(2L), null);
            print.effect(Action.DELETE, BOAT, List.of(1L), null);
        });

        assertThat(oneWay).isEqualTo(other).matches("[0-9a-f]{32}");
    }

    @Test
    void tellsApartWhatDiffersInAnyPart() {
        assertThat(List.of(
                        of(print -> print.effect(Action.DELETE, BOAT, List.of(1L), null)),
                        of(print -> print.effect(Action.DELETE, BOAT, List.of("1"), null)),
                        of(print -> print.effect(Action.DELETE, FEE, List.of(1L), null)),
                        of(print -> print.effect(Action.REASSIGN, BOAT, List.of(1L), null)),
                        of(print -> print.effect(Action.REASSIGN, BOAT, List.of(1L), 3L)),
                        of(print -> print.effect(Action.REASSIGN, BOAT, List.of(1L), 4L)),
                        of(print -> print.effect(Action.DELETE, BOAT, List.of("ab", "c"), null)),
                        of(print -> print.effect(Action.DELETE, BOAT, List.of("a", "bc"), null)),
                        of(print -> print.content(BOAT, List.of(1L))),
                        // A row met twice is not a row not met: sums do not cancel out.
                        of(print -> {
                            print.content(BOAT, List.of(1L));
                            print.content(BOAT, List.of(1L));
                        }),
                        of(print -> {}),
                        new Fingerprint(OperationKind.SOFT_DELETE, false).shown(),
                        new Fingerprint(OperationKind.ERASE, true).shown()))
                .doesNotHaveDuplicates();
    }

    /** The sum of the digests of all lines modulo 2^256, by arithmetic of any length. */
    @Test
    void addsUpTheDigestsOfItsLines() throws NoSuchAlgorithmException, IOException {
        MessageDigest sha = MessageDigest.getInstance("SHA-256");
        Fingerprint print = new Fingerprint(OperationKind.ERASE, false);
        BigInteger sum = line(sha, "mode", OperationKind.ERASE.word(), false);
        for (long key = 0; key < 2_000; key++) {
            String name = "Ösprey " + "x".repeat((int) key % 300);
            print.effect(
                    key % 3 == 0 ? Action.DELETE : Action.REASSIGN, BOAT, List.of(key, name), key % 3 == 0 ? null : 4L);
            sum = sum.add(line(sha, key % 3 == 0 ? "delete boat" : "reassign boat = 4", key, name));
        }
        byte[] whole = new byte[32];
        for (int i = 0; i < 4; i++) {
            ByteBuffer.wrap(whole).putLong(8 * i, sum.shiftRight(64 * i).longValue());
        }

        assertThat(print.shown()).isEqualTo(HexFormat.of().formatHex(sha.digest(whole), 0, 16));
    }

    private static BigInteger line(MessageDigest sha, String what, Object... values) throws IOException {
        ByteArrayOutputStream line = new ByteArrayOutputStream();
        DataOutputStream out = new DataOutputStream(line);
        List<String> texts = new ArrayList<>(List.of(what));
        for (Object value : values) {
            texts.add(value.getClass().getSimpleName());
            texts.add(value.toString());
        }
        for (String text : texts) {
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            out.writeInt(bytes.length);
            out.write(bytes);
        }
        return new BigInteger(1, sha.digest(line.toByteArray()));
    }

    private static String of(Consumer<Fingerprint> rows) {
        Fingerprint print = new Fingerprint(OperationKind.ERASE, false);
        rows.accept(print);
        return print.shown();
    }
}
