// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.access.ScopeMarks;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Under which scope something was done, as own tables keep it: a list in JSON of tables and digests in turn. */
public final class StoredScopes {

    private static final ObjectMapper MAPPER = new ObjectMapper();

    private StoredScopes() {}

    /** Null where there was no scope. */
    public static @Nullable String written(ScopeMarks marks) {
        List<String> pairs = new ArrayList<>();
        new TreeMap<>(marks.digests()).forEach((table, digest) -> {
            pairs.add(table);
            pairs.add(digest);
        });
        try {
            return pairs.isEmpty() ? null : MAPPER.writeValueAsString(pairs);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    public static ScopeMarks read(@Nullable String json) {
        Map<String, String> digests = new TreeMap<>();
        try {
            List<String> pairs =
                    json == null ? List.of() : MAPPER.readValue(json, new TypeReference<List<String>>() {});
            for (int i = 0; i + 1 < pairs.size(); i += 2) {
                digests.put(pairs.get(i), pairs.get(i + 1));
            }
        } catch (JsonProcessingException broken) {
            throw new IllegalStateException("a scope is kept in no form that is known", broken);
        }
        return new ScopeMarks(digests);
    }
}
