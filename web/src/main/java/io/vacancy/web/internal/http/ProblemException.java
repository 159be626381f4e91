// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.http;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A request that ends in problem details (RFC 9457). */
public final class ProblemException extends RuntimeException {

    private final int status;
    private final String kind;
    private final transient Map<String, JsonNode> members = new LinkedHashMap<>();
    private final transient Map<String, String> headers = new LinkedHashMap<>();

    /**
     * @param kind the end of its type, the same in every release
     * @param detail what is wrong with this request
     */
    public ProblemException(int status, String kind, String detail) {
        super(detail, null, false, false);
        this.status = status;
        this.kind = kind;
    }

    /** With a member more; none where the value is null. */
    public ProblemException with(String name, @Nullable JsonNode value) {
        if (value != null) {
            members.put(name, value);
        }
        return this;
    }

    /** With a header field more. */
    public ProblemException header(String name, String value) {
        headers.put(name, value);
        return this;
    }

    public int status() {
        return status;
    }

    public String kind() {
        return kind;
    }

    public Map<String, JsonNode> members() {
        return members;
    }

    public Map<String, String> headers() {
        return headers;
    }
}
