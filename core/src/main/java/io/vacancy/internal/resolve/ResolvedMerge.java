// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.rules.Rule;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.Map;

/**
 * What a merge does.
 *
 * @param into the row that stays, as it is now
 * @param key by which that row is known
 * @param rules what becomes of child rows, by relation, whatever the rule book says
 * @param duplicates the relations of which duplicates are deleted
 */
public record ResolvedMerge(Row into, List<Object> key, Map<Relation, List<Rule>> rules, List<Relation> duplicates) {

    /** The same with another row to be told. */
    public ResolvedMerge told(Row row) {
        return new ResolvedMerge(row, key, rules, duplicates);
    }
}
