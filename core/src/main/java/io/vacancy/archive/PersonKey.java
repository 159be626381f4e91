// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;

/**
 * The key of one person, by which the person's values are encrypted where they are archived. Immutable.
 */
public final class PersonKey {

    /** The length of a secret, in bytes: that of AES-256. */
    public static final int LENGTH = 32;

    private static final int LONGEST_ID = 100;

    private final String id;
    private final byte[] secret;

    private PersonKey(String id, byte[] secret) {
        this.id = id;
        this.secret = secret;
    }

    /**
     * @param id by which it is found again: letters, digits and hyphens, which tell nobody who the person is
     * @param secret 32 bytes that nobody can guess; copied
     * @throws MisuseException if the one or the other is not so
     */
    public static PersonKey of(String id, byte[] secret) {
        if (Arguments.notBlank(id, "id").length() > LONGEST_ID || !id.matches("[A-Za-z0-9-]+")) {
            throw new MisuseException(
                    "\"" + id + "\" cannot name a person's key.",
                    "Give up to " + LONGEST_ID + " letters, digits and hyphens.");
        }
        if (Arguments.notNull(secret, "secret").length != LENGTH) {
            throw new MisuseException(
                    "A person's key has " + LENGTH + " bytes, not " + secret.length + ".",
                    "Make it of bytes of a secure random number generator.");
        }
        return new PersonKey(id, secret.clone());
    }

    /** By which it is found again. */
    public String id() {
        return id;
    }

    /** A copy of the bytes. */
    public byte[] secret() {
        return secret.clone();
    }

    /** Without the secret. */
    @Override
    public String toString() {
        return "key " + id;
    }
}
