// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.http;

import java.util.Map;

/** The titles of problems, the same for every occurrence (RFC 9457, 3.1.3). */
final class Titles {

    private static final Map<String, String> TITLES = Map.ofEntries(
            Map.entry("malformed", "The request is malformed"),
            Map.entry("media-type", "The media type is not supported"),
            Map.entry("too-large", "The request is too large"),
            Map.entry("too-often", "Too many requests"),
            Map.entry("cross-site", "The request comes from another site"),
            Map.entry("not-found", "Not found"),
            Map.entry("method", "The method is not allowed"),
            Map.entry("nothing", "Nothing is selected"),
            Map.entry("blocked", "Rows block it"),
            Map.entry("declined", "Declined"),
            Map.entry("refused", "Refused"),
            Map.entry("changed", "It has changed since it was shown"),
            Map.entry("confirmation-required", "Confirmation is required"),
            Map.entry("busy", "Held by somebody else"),
            Map.entry("waiting", "It waits for an approval"),
            Map.entry("expired", "The question has expired"),
            Map.entry("failed", "It failed"));

    private Titles() {}

    static String of(String kind) {
        return TITLES.getOrDefault(kind, kind);
    }
}
