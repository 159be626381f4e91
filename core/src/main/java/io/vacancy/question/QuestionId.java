// SPDX-License-Identifier: Apache-2.0
package io.vacancy.question;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.regex.Pattern;

/**
 * The identifier of an open question. Nobody guesses one: those that Vacancy makes have 256 random bits.
 *
 * @param value 20 to 64 letters, digits, - and _
 */
public record QuestionId(String value) {

    private static final SecureRandom RANDOM = new SecureRandom();
    private static final Pattern FORM = Pattern.compile("[A-Za-z0-9_-]{20,64}");
    private static final int BYTES = 32;

    public QuestionId {
        if (!FORM.matcher(Arguments.notBlank(value, "question")).matches()) {
            throw new MisuseException(
                    "The text is not the identifier of an open question.",
                    "Give the identifier as the question has it.");
        }
    }

    /** Whether a text has the form of one. */
    public static boolean fits(String text) {
        return FORM.matcher(Arguments.notNull(text, "text")).matches();
    }

    /** A new one: 32 random bytes in base64url (RFC 4648, 5). */
    public static QuestionId next() {
        byte[] bytes = new byte[BYTES];
        RANDOM.nextBytes(bytes);
        return new QuestionId(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes));
    }

    @Override
    public String toString() {
        return value;
    }
}
