// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.page;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.jspecify.annotations.Nullable;

/**
 * Proves that a form was made by this application for the one who sends it: HMAC-SHA-256 over the actor and the time (the
 * signed tokens of the OWASP cross-site request forgery prevention cheat sheet). It needs no session, and is good on every node
 * that has the same key.
 */
public record FormToken(byte[] key, Clock clock) {

    private static final Duration GOOD_FOR = Duration.ofHours(12);
    private static final String ALGORITHM = "HmacSHA256";

    /** A token for forms of an actor. */
    public String of(String actor) {
        long now = clock.instant().getEpochSecond();
        return now + "." + signed(now, actor);
    }

    /** Whether a token was made for this actor not long ago. */
    public boolean accepts(@Nullable String token, String actor) {
        if (token == null || !token.matches("\\d{1,12}\\.[A-Za-z0-9_-]{43}")) {
            return false;
        }
        int dot = token.indexOf('.');
        long made = Long.parseLong(token.substring(0, dot));
        long age = clock.instant().getEpochSecond() - made;
        return age >= 0
                && age <= GOOD_FOR.toSeconds()
                && MessageDigest.isEqual(bytes(token.substring(dot + 1)), bytes(signed(made, actor)));
    }

    private String signed(long time, String actor) {
        try {
            Mac mac = Mac.getInstance(ALGORITHM);
            mac.init(new SecretKeySpec(key, ALGORITHM));
            return Base64.getUrlEncoder().withoutPadding().encodeToString(mac.doFinal(bytes(time + "\n" + actor)));
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException("every Java has HmacSHA256", impossible);
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }
}
