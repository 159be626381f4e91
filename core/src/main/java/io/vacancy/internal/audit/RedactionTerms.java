// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Personal values as they may stand in what somebody wrote freely, such as a reason. One thread only. */
public final class RedactionTerms {

    /** Anything shorter stands for itself only as a word of its own. */
    private static final int LONG_ENOUGH = 4;

    private final Map<String, String> instead = new LinkedHashMap<>();

    /** Remembers a value, and what stands in its place. */
    public void add(Object value, String digest) {
        String text = KeyText.text(value).strip();
        if (!text.isEmpty()) {
            instead.put(text, digest);
        }
    }

    /** The text without them, whatever case they are written in. */
    public @Nullable String without(@Nullable String text) {
        if (text == null || instead.isEmpty()) {
            return text;
        }
        String[] clean = {text};
        // A long one may hold a short one.
        instead.entrySet().stream()
                .sorted(Comparator.comparing((Map.Entry<String, String> word) ->
                                word.getKey().length())
                        .reversed())
                .forEach(word -> {
                    String quoted = Pattern.quote(word.getKey());
                    String pattern = word.getKey().length() >= LONG_ENOUGH
                            ? quoted
                            : "(?<![\\p{L}\\p{N}])" + quoted + "(?![\\p{L}\\p{N}])";
                    clean[0] = Pattern.compile(pattern, Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE)
                            .matcher(clean[0])
                            .replaceAll(Matcher.quoteReplacement(word.getValue()));
                });
        return clean[0];
    }

    /** The same for a text that is there. */
    public String whole(String text) {
        return String.valueOf(without(text));
    }
}
