// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import java.util.List;
import java.util.Map;

/** The start of a request that forgets a person: which one has to be said first. Immutable. */
public final class PersonStep {

    private final String table;

    PersonStep(String table) {
        this.table = table;
    }

    /**
     * The person with this key.
     *
     * @param key a {@link Key}, a Java value, or its text
     */
    public Request key(Object key) {
        Key read = key instanceof Key ready ? ready : Key.of(key);
        return request(new Selection.ByKeys(KeyList.of(List.of(read))));
    }

    /** The one person with all of these values; at least one, none of them null. */
    public Request matching(Map<String, Object> values) {
        return request(new Selection.ByMatch(values));
    }

    private Request request(Selection person) {
        RequestParts parts = new RequestParts(new Operation.Forget(), table, person);
        // Somebody who is marked as deleted is a person still.
        parts.includesMarked = true;
        return Request.of(parts);
    }
}
