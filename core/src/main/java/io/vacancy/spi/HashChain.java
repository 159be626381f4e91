// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

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

    private static byte[] sha256(byte[] bytes) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(bytes);
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every Java has SHA-256", impossible);
        }
    }
}
