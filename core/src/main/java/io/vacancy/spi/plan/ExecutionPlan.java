// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.archive.Hold;
import io.vacancy.condition.Condition;
import io.vacancy.schema.TableName;
import java.time.Duration;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A program together with what belongs to one request: all that a store needs to know.
 *
 * @param target the rows to start from
 * @param others the same of further tables
 * @param scopes the conditions that hold on everything the caller may see or touch, for the tables that
 *     have one
 * @param skipping whether selected rows are left out whose going is blocked
 * @param writes what is written into rows that are marked, come back or are changed
 * @param replacement how the selected row ends and its successor begins, or null
 * @param marked the tables whose rows can be soft-deleted
 * @param visible the rows of the selected table that are seen, or null where there is nothing to tell of them
 * @param archivePolicy what is to be kept
 * @param operation what is to be done with the target
 * @param holds what may not be erased or purged; known once the store has looked
 * @param counted tables of which somebody wants to know how many rows there are, those that stay included
 * @param now what conditions mean by today and now
 * @param lockTimeout how long to wait for rows that somebody else holds; null for as long as the database does
 * @param key the identity that the caller gave the request, or null
 * @param detail how much is to be told of what is found
 */
public record ExecutionPlan(
        Program program,
        Target target,
        Map<TableName, Target> others,
        Map<TableName, Condition> scopes,
        boolean skipping,
        ColumnWrites writes,
        @Nullable Replacement replacement,
        Map<TableName, MarkerPredicates> marked,
        @Nullable Visible visible,
        ArchivePolicy archivePolicy,
        PlannedOperation operation,
        List<Hold> holds,
        Set<TableName> counted,
        ZonedDateTime now,
        @Nullable Duration lockTimeout,
        @Nullable RequestKey key,
        Detail detail) {

    public ExecutionPlan {
        others = Map.copyOf(others);
        scopes = Map.copyOf(scopes);
        holds = List.copyOf(holds);
        marked = Map.copyOf(marked);
        counted = Set.copyOf(counted);
    }

    /**
     * Which rows of a table that has a marker an application shows.
     *
     * @param active what holds for those rows
     * @param leftOut what holds for the rows that are not selected though they were asked for; null if none is
     */
    public record Visible(Condition active, @Nullable Condition leftOut) {}

    /** The rows of a table to start from, or null where none of it are selected. */
    public @Nullable Target target(TableName table) {
        return table.equals(program.root()) ? target : others.get(table);
    }

    /** Whether every row is looked at, since what is found is shown or compared with what was shown. */
    public boolean compared() {
        return detail != Detail.COUNTS;
    }

    /** Whether somebody is shown a few rows of each effect. */
    public boolean shown() {
        return detail == Detail.SHOWN;
    }

    /** The same, whose impact is shown to somebody. */
    public ExecutionPlan toBeShown() {
        return with(archivePolicy, holds, Detail.SHOWN);
    }

    /** The same where there is no place for what is to be kept. */
    public ExecutionPlan keepingNothing() {
        return with(archivePolicy.withoutImages(), holds, detail);
    }

    /** The same under holds. */
    public ExecutionPlan under(List<Hold> inForce) {
        return with(archivePolicy, inForce, detail);
    }

    private ExecutionPlan with(ArchivePolicy kept, List<Hold> inForce, Detail wanted) {
        return new ExecutionPlan(
                program,
                target,
                others,
                scopes,
                skipping,
                writes,
                replacement,
                marked,
                visible,
                kept,
                operation,
                inForce,
                counted,
                now,
                lockTimeout,
                key,
                wanted);
    }
}
