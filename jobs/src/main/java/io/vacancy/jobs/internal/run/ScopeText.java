// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.access.Scope;
import io.vacancy.access.ScopeMarks;
import io.vacancy.condition.Condition;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;

/** A scope as it is compared: a digest of the condition on each table. */
public final class ScopeText {

    private ScopeText() {}

    /** An empty text for a scope in which everything is. */
    public static String of(Schema schema, Scope scope) {
        Scope here = scope.in(schema);
        Map<TableName, Condition> conditions = new HashMap<>();
        for (Table table : schema.tables()) {
            Condition condition = here.on(table);
            if (condition != null) {
                conditions.put(table.name(), condition.readFor(table, schema));
            }
        }
        Map<String, String> digests = new TreeMap<>(ScopeMarks.of(conditions).digests());
        return digests.isEmpty() ? "" : digests.toString();
    }
}
