// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.failure.MisuseException;
import java.security.GeneralSecurityException;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** A secret by which digests are made that nobody else can make: HMAC-SHA-256 (RFC 2104). Serves all threads. */
public final class MacKey {

    private static final String ALGORITHM = "HmacSHA256";
    private static final int SHORTEST = 16;

    private final SecretKeySpec key;

    private MacKey(SecretKeySpec key) {
        this.key = key;
    }

    /**
     * @param secret at least 16 bytes, which nobody can guess; copied
     * @throws MisuseException if it is shorter
     */
    public static MacKey of(byte[] secret) {
        if (secret.length < SHORTEST) {
            throw new MisuseException(
                    "A secret of " + secret.length + " bytes can be guessed.", "Give " + SHORTEST + " bytes or more.");
        }
        return new MacKey(new SecretKeySpec(secret, ALGORITHM));
    }

    public byte[] mac(byte[] text) {
        try {
            Mac mac = Mac.getInstance(ALGORITHM);
            mac.init(key);
            return mac.doFinal(text);
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException("every Java has " + ALGORITHM, impossible);
        }
    }
}
