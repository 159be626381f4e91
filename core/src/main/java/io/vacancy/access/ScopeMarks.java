// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.TableName;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Under which scope something was done: of each table that the scope restricted, a digest of its condition. What was kept
 * of a table is there again only for somebody whose scope has the same condition on it, or none. The rows themselves would
 * not tell: by the time somebody asks, the parents that they belonged to may be gone.
 *
 * @param digests SHA-256 of the condition in words, in hexadecimal, by the name of the table
 */
public record ScopeMarks(Map<String, String> digests) {

    /** Of something that was done without a scope. */
    public static final ScopeMarks NONE = new ScopeMarks(Map.of());

    public ScopeMarks {
        digests = Map.copyOf(Arguments.notNull(digests, "digests"));
    }

    /** Of the conditions of a scope. */
    public static ScopeMarks of(Map<TableName, Condition> scopes) {
        Map<String, String> digests = new TreeMap<>();
        Arguments.notNull(scopes, "scopes")
                .forEach((table, condition) -> digests.put(table.toString(), digest(condition)));
        return new ScopeMarks(digests);
    }

    /** What is noted of a table; null where the scope left all of it open. */
    public @Nullable String of(TableName table) {
        Arguments.notNull(table, "table");
        return digests.get(table.toString());
    }

    /** Whether what was kept under a mark is there for somebody with a condition. */
    public static boolean covers(@Nullable String mark, @Nullable Condition now) {
        return now == null || digest(now).equals(mark);
    }

    private static String digest(Condition condition) {
        try {
            MessageDigest sha = MessageDigest.getInstance("SHA-256");
            return HexFormat.of()
                    .formatHex(sha.digest(ConditionText.of(condition).getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every Java has SHA-256", impossible);
        }
    }
}
