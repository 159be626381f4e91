// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.preview.Impact;
import io.vacancy.schema.Row;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.List;
import java.util.stream.Stream;

/** One way of doing what a request asks for: first looked at, then done, in the same transaction. */
public interface StoreOperation {

    /** What would be done. Called once, before anything else. */
    Impact impact();

    /** The rows that are about to go or to change; none where rows come back, or only images go. */
    List<RowsToArchive> rowsToArchive();

    /**
     * The keys of the rows that it is done to, effect by effect; none of rows that have no lasting key. Called before
     * anything goes.
     *
     * @param most how many keys of each effect
     */
    List<AffectedKeys> affectedKeys(int most);

    /** The selected rows, as they stand before it is done. */
    Stream<Row> rows();

    /** Does it. */
    void run(Impact found);

    /** Whether doing it commits by itself, so that no rollback takes it back. */
    default boolean irrevocable() {
        return false;
    }

    /**
     * Called before something irrevocable is done, in the transaction that has archived it and is committed then.
     *
     * @param rows how many were archived
     */
    default void archived(long rows) {}

    /** Statements that can only be run once it is committed, in no transaction; it is whole without them. */
    default List<String> afterCommit() {
        return List.of();
    }

    /** What was found, with what was only counted while it was done. */
    default Impact afterwards(Impact found) {
        return found;
    }

    /** Whether anything of it is archived under a plan. */
    default boolean archives(ExecutionPlan plan) {
        return plan.archivePolicy().images()
                && rowsToArchive().stream()
                        .anyMatch(rows -> rows.copies()
                                && plan.archivePolicy().keeps(rows.table().name()));
    }
}
