// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.failure.TrailIntegrityException;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.MacKey;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import org.jspecify.annotations.Nullable;

/**
 * Computes seals. Each one is SHA-256 over the seal before it (32 bytes), its own position (8 bytes, the highest
 * first) and the entry in UTF-8; with a key, HMAC-SHA-256 of the same. That is the linear linking of Haber and
 * Stornetta, "How to Time-Stamp a Digital Document" (1991). Serves all threads.
 */
public final class HashChain {

    private final @Nullable MacKey key;

    /** @param key null where everybody may compute seals */
    public HashChain(@Nullable MacKey key) {
        this.key = key;
    }

    /** Whether only who has a secret may compute seals. */
    public boolean secret() {
        return key != null;
    }

    /** The head after one more entry. */
    public ChainHead after(ChainHead head, String content) {
        byte[] entry = content.getBytes(StandardCharsets.UTF_8);
        long position = head.position() + 1;
        byte[] linked = ByteBuffer.allocate(32 + Long.BYTES + entry.length)
                .put(HexFormat.of().parseHex(head.digest()))
                .putLong(position)
                .put(entry)
                .array();
        return new ChainHead(position, HexFormat.of().formatHex(key == null ? sha256(linked) : key.mac(linked)));
    }

    /**
     * Sees that a chain goes on from a head that it is known to have had.
     *
     * @param known such a head; {@link ChainHead#NONE} where none is known
     * @param now where the chain ends, as the store says
     * @param there the digest of the seal at the known position; null where there is none
     * @throws TrailIntegrityException if it does not
     */
    public static void wantsContinuation(ChainHead known, ChainHead now, @Nullable String there) {
        boolean same = now.position() != known.position() || now.equals(known);
        if (known.position() == 0
                || (now.position() >= known.position() && known.digest().equals(there) && same)) {
            return;
        }
        throw new TrailIntegrityException(
                "The audit history was sealed up to " + known.position() + ", and in the database "
                        + (now.position() < known.position()
                                ? "it ends at " + now.position()
                                : "the seal at that place is another one")
                        + ", so nothing is sealed.",
                "Verify it with the head that is remembered to see what is wrong. If the database was taken back to an"
                        + " earlier state on purpose, have the head of that state remembered instead.");
    }

    private static byte[] sha256(byte[] bytes) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(bytes);
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every Java has SHA-256", impossible);
        }
    }
}
