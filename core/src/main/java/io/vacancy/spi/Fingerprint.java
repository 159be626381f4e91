// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.preview.Action;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.security.DigestException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Objects;
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

    private static final int SHOWN_BYTES = 16;
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);

    private final MessageDigest digest = sha256();
    private final byte[] hash = new byte[32];
    /** 256 bits, the lowest 64 first. */
    private final long[] sum = new long[4];
    /** What is digested of one row; there are many rows, so it is used again for each. */
    private byte[] line = new byte[256];

    private int length;
    private @Nullable String what;
    private byte[] whatBytes = {};
    private @Nullable Action lastAction;
    private @Nullable TableName lastTable;
    private @Nullable Object lastValue;

    /** Starts the digest of a request in a mode. */
    public Fingerprint(OperationKind mode, boolean archived) {
        add("mode", List.of(mode.word(), archived));
    }

    /** A row to which something happens: its identity, and the value written into it, if any. */
    public void effect(Action action, TableName table, List<?> identity, @Nullable Object newValue) {
        if (action != lastAction || !table.equals(lastTable) || !Objects.equals(newValue, lastValue)) {
            lastAction = action;
            lastTable = table;
            lastValue = newValue;
            what = action.word() + " " + table + (newValue == null ? "" : " = " + newValue);
            whatBytes = what.getBytes(StandardCharsets.UTF_8);
        }
        add(identity);
    }

    /** A selected row with its whole content. */
    public void content(TableName table, List<? extends @Nullable Object> values) {
        lastAction = null;
        add("content " + table, values);
    }

    private void add(String kind, List<? extends @Nullable Object> values) {
        if (!kind.equals(what)) {
            what = kind;
            whatBytes = kind.getBytes(StandardCharsets.UTF_8);
        }
        add(values);
    }

    private void add(List<? extends @Nullable Object> values) {
        length = 0;
        write(whatBytes);
        for (Object value : values) {
            // The class keeps the text "17" apart from the number 17; a length keeps ("a","bc") from ("ab","c").
            write(value == null ? "" : value.getClass().getSimpleName());
            write(value == null ? "" : value.toString());
        }
        digest.update(line, 0, length);
        try {
            digest.digest(hash, 0, hash.length);
        } catch (DigestException impossible) {
            throw new IllegalStateException(impossible);
        }
        long carry = 0;
        for (int i = 0; i < sum.length; i++) {
            long more = (long) LONGS.get(hash, hash.length - 8 * (i + 1));
            long before = sum[i] + carry;
            // A sum that wraps around is less than what was added to it, or 0 where that was a carry.
            carry = carry != 0 && before == 0 ? 1 : 0;
            sum[i] = before + more;
            carry += Long.compareUnsigned(sum[i], more) < 0 ? 1 : 0;
        }
    }

    private void write(byte[] bytes) {
        room(4 + bytes.length);
        INTS.set(line, length, bytes.length);
        System.arraycopy(bytes, 0, line, length + 4, bytes.length);
        length += 4 + bytes.length;
    }

    private void write(String text) {
        int chars = text.length();
        room(4 + chars);
        int at = length + 4;
        for (int i = 0; i < chars; i++) {
            char letter = text.charAt(i);
            if (letter >= 0x80) {
                write(text.getBytes(StandardCharsets.UTF_8));
                return;
            }
            line[at + i] = (byte) letter;
        }
        INTS.set(line, length, chars);
        length = at + chars;
    }

    private void room(int more) {
        if (length + more > line.length) {
            line = Arrays.copyOf(line, Math.max(2 * line.length, length + more));
        }
    }

    /** The digest of all that has been added so far, as 32 hexadecimal digits. */
    public String shown() {
        byte[] whole = new byte[8 * sum.length];
        for (int i = 0; i < sum.length; i++) {
            LONGS.set(whole, 8 * i, sum[i]);
        }
        whole = digest.digest(whole);
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
