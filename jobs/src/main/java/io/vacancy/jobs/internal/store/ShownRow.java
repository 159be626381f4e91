// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.request.Key;
import io.vacancy.schema.Row;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A selected row as it was when the job was ordered.
 *
 * @param key the values of its identity as texts, in the order of the identity's columns
 * @param digest of all that it had, or an empty text where nobody compares
 */
public record ShownRow(List<String> key, String digest) {

    private static final ObjectMapper MAPPER = new ObjectMapper();

    /** A change is found by 128 bits of a SHA-256; nobody gains by forging one. */
    private static final int DIGEST_BYTES = 16;

    /** A row as it stands now. */
    public static ShownRow of(Row row, List<String> identity, boolean digested) {
        return new ShownRow(key(row, identity), digested ? digest(row) : "");
    }

    /** By what a row is told apart from others. */
    public static List<String> key(Row row, List<String> identity) {
        return identity.stream().map(row::text).toList();
    }

    /** The digest of all that a row has. */
    public static String digest(Row row) {
        MessageDigest sha;
        try {
            sha = MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        }
        for (Object value : row.values().values()) {
            // A length keeps ("a", "bc") from ("ab", "c"), and NULL from every text.
            byte[] bytes = value == null ? new byte[0] : value.toString().getBytes(StandardCharsets.UTF_8);
            int length = value == null ? -1 : bytes.length;
            sha.update(new byte[] {(byte) (length >> 24), (byte) (length >> 16), (byte) (length >> 8), (byte) length});
            sha.update(bytes);
        }
        return Base64.getUrlEncoder().withoutPadding().encodeToString(Arrays.copyOf(sha.digest(), DIGEST_BYTES));
    }

    /** As a request has it. */
    public Key asKey(List<String> identity) {
        if (identity.size() == 1) {
            return Key.of(key.get(0));
        }
        Map<String, Object> parts = new LinkedHashMap<>();
        for (int i = 0; i < identity.size(); i++) {
            parts.put(identity.get(i), key.get(i));
        }
        return new Key(parts);
    }

    /** As a line of JSON: the key, and then the digest. */
    public String line() {
        List<String> all = new ArrayList<>(key);
        all.add(digest);
        try {
            return MAPPER.writeValueAsString(all);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** All of a chunk. */
    static List<ShownRow> lines(@Nullable String content) {
        List<ShownRow> rows = new ArrayList<>();
        for (String line : content == null ? new String[0] : content.split("\n")) {
            try {
                List<String> all = List.of(MAPPER.readValue(line, String[].class));
                rows.add(new ShownRow(all.subList(0, all.size() - 1), all.get(all.size() - 1)));
            } catch (JsonProcessingException broken) {
                throw new IllegalStateException("the rows of a job are kept in no form that is known", broken);
            }
        }
        return rows;
    }

    /** What a chunk keeps. */
    public static String content(List<ShownRow> rows) {
        return String.join("\n", rows.stream().map(ShownRow::line).toList());
    }
}
