// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.preview.Action;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A digest of everything that a request would do, independent of the order in which rows are met: the
 * sum, modulo 2^256, of the SHA-256 of each row's line, as in the additive multiset hash of Clarke,
 * Devadas, van Dijk, Gassend and Suh (2003). It tells whether something changed between preview and
 * answer; it is no seal against somebody who forges rows.
 *
 * <p>Not for use by several threads at once.
 */
public final class Fingerprint {

    private static final BigInteger MODULUS = BigInteger.ONE.shiftLeft(256);
    private static final int SHOWN_BYTES = 16;

    private final MessageDigest digest = sha256();
    private BigInteger sum = BigInteger.ZERO;

    /** Starts the digest of a request in a mode. */
    public Fingerprint(OperationKind mode, boolean archived) {
        add("mode", List.of(mode.word(), archived));
    }

    /** A row to which something happens: its identity, and the value written into it, if any. */
    public void effect(Action action, TableName table, List<?> identity, @Nullable Object newValue) {
        add(action.word() + " " + table + (newValue == null ? "" : " = " + newValue), identity);
    }

    /** A selected row with its whole content. */
    public void content(TableName table, List<? extends @Nullable Object> values) {
        add("content " + table, values);
    }

    private void add(String what, List<? extends @Nullable Object> values) {
        ByteArrayOutputStream line = new ByteArrayOutputStream();
        try (DataOutputStream out = new DataOutputStream(line)) {
            write(out, what);
            for (Object value : values) {
                // The class keeps the text "17" apart from the number 17; a length keeps ("a","bc") from ("ab","c").
                write(out, value == null ? "" : value.getClass().getSimpleName());
                write(out, value == null ? "" : value.toString());
            }
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        sum = sum.add(new BigInteger(1, digest.digest(line.toByteArray()))).mod(MODULUS);
    }

    private static void write(DataOutputStream out, String text) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        out.writeInt(bytes.length);
        out.write(bytes);
    }

    /** The digest of all that has been added so far, as 32 hexadecimal digits. */
    public String shown() {
        byte[] whole = digest.digest(sum.toByteArray());
        return HexFormat.of().formatHex(whole, 0, SHOWN_BYTES);
    }

    /** The digest of two things that happen together. */
    public static String joined(String one, String other) {
        if (one.isEmpty() || other.isEmpty()) {
            return one + other;
        }
        byte[] both = sha256().digest((one + " " + other).getBytes(StandardCharsets.UTF_8));
        return HexFormat.of().formatHex(both, 0, SHOWN_BYTES);
    }

    private static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        }
    }
}
