// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.archive.PersonKey;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.jspecify.annotations.Nullable;

/**
 * Encrypts texts by the keys of persons: AES-256 in Galois/Counter Mode (NIST SP 800-38D), with 96 random bits before each and
 * a tag of 128. Where a text stands is authenticated with it, so that it cannot be put into the place of another.
 */
public final class PersonCipher {

    private static final String ALGORITHM = "AES/GCM/NoPadding";
    private static final int NONCE = 12;
    private static final int TAG_BITS = 128;
    private static final SecureRandom RANDOM = new SecureRandom();

    private PersonCipher() {}

    /**
     * A text that only the key reads; the key's identifier stands before it.
     *
     * @param place where it stands, such as {@code skipper.name}
     */
    public static String encrypted(PersonKey key, String place, String text) {
        byte[] nonce = new byte[NONCE];
        RANDOM.nextBytes(nonce);
        try {
            byte[] hidden =
                    cipher(Cipher.ENCRYPT_MODE, key, nonce, place).doFinal(text.getBytes(StandardCharsets.UTF_8));
            byte[] whole = ByteBuffer.allocate(NONCE + hidden.length)
                    .put(nonce)
                    .put(hidden)
                    .array();
            return key.id() + ":" + Base64.getEncoder().encodeToString(whole);
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException("every Java has " + ALGORITHM, impossible);
        }
    }

    /** The identifier of the key that an encrypted text wants. */
    public static String keyOf(String encrypted) {
        int colon = encrypted.indexOf(':');
        return colon < 0 ? "" : encrypted.substring(0, colon);
    }

    /** The text again; null where it was changed, stands elsewhere, or was made by another key. */
    public static @Nullable String decrypted(PersonKey key, String place, String encrypted) {
        try {
            ByteBuffer whole = ByteBuffer.wrap(
                    Base64.getDecoder().decode(encrypted.substring(key.id().length() + 1)));
            byte[] nonce = new byte[NONCE];
            whole.get(nonce);
            byte[] hidden = new byte[whole.remaining()];
            whole.get(hidden);
            return new String(cipher(Cipher.DECRYPT_MODE, key, nonce, place).doFinal(hidden), StandardCharsets.UTF_8);
        } catch (GeneralSecurityException | RuntimeException changed) {
            return null;
        }
    }

    private static Cipher cipher(int mode, PersonKey key, byte[] nonce, String place) throws GeneralSecurityException {
        Cipher cipher = Cipher.getInstance(ALGORITHM);
        cipher.init(mode, new SecretKeySpec(key.secret(), "AES"), new GCMParameterSpec(TAG_BITS, nonce));
        cipher.updateAAD(place.getBytes(StandardCharsets.UTF_8));
        return cipher;
    }
}
