// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import io.vacancy.request.Operation;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The collections that questions are created in, by what they ask about. */
public enum ResourceCollection {
    DELETIONS(
            "deletions",
            "delete",
            List.of("delete", "erase", "soft-delete", "blank", "forget"),
            List.of("table", "keys", "where", "plus", "mode", "deletion", "parameters", "on-blocked", "because")),
    RESTORES("restores", "restore", List.of("restore"), List.of("table", "keys", "receipt", "on-blocked", "because")),
    REPLACEMENTS("replacements", "replace", List.of("replace"), List.of("table", "keys", "successor", "because")),
    PURGES("purges", "purge", List.of("purge"), List.of("table", "keys", "receipt", "on-blocked", "because"));

    private final String path;
    private final String operation;
    private final List<String> operations;
    private final List<String> members;

    ResourceCollection(String path, String operation, List<String> operations, List<String> members) {
        this.path = path;
        this.operation = operation;
        this.operations = operations;
        this.members = members;
    }

    /** Its part of an address. */
    public String path() {
        return path;
    }

    /** What is done unless the document says otherwise. */
    String operation() {
        return operation;
    }

    /** What a client may say. */
    List<String> members() {
        return members;
    }

    /** The collection at a part of an address, or null. */
    public static @Nullable ResourceCollection at(String path) {
        return Arrays.stream(values())
                .filter(each -> each.path.equals(path))
                .findFirst()
                .orElse(null);
    }

    /** The collection of questions about an operation. */
    public static ResourceCollection of(Operation operation) {
        return Arrays.stream(values())
                .filter(each -> each.operations.contains(operation.word()))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(operation.word()));
    }
}
