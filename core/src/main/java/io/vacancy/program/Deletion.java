package io.vacancy.program;

import io.vacancy.archive.Hold;
import io.vacancy.condition.Condition;
import io.vacancy.request.Images;
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
 * @param scopes the conditions that hold on everything the caller may see or touch, for the tables that
 *     have one
 * @param sparing whether selected rows are left out whose going is blocked
 * @param writes what is written into rows that are marked, come back or are changed
 * @param succession how the selected row ends and its successor begins, or null
 * @param marked the tables whose rows can be soft-deleted
 * @param visible the rows of the selected table that are seen, or null where there is nothing to tell of them
 * @param keeping what is to be kept
 * @param images the images that are meant instead of rows that are there, or null
 * @param holds what may not be erased or purged; known once the store has looked
 * @param counted tables of which somebody wants to know how many rows there are, those that stay included
 * @param now what conditions mean by today and now
 * @param patience how long to wait for rows that somebody else holds; null for as long as the database does
 * @param shown whether what is found is shown to somebody or compared with what was shown, so that samples
 *     and a fingerprint are wanted; else only the counts of what was done
 */
public record Deletion(
        Program program,
        Target target,
        Map<TableName, Condition> scopes,
        boolean sparing,
        Writes writes,
        @Nullable Succession succession,
        Map<TableName, Marked> marked,
        @Nullable Visible visible,
        Keeping keeping,
        @Nullable Images images,
        List<Hold> holds,
        Set<TableName> counted,
        ZonedDateTime now,
        @Nullable Duration patience,
        boolean shown) {

    public Deletion {
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

    /** The same, whose findings are shown to somebody. */
    public Deletion toBeShown() {
        return with(keeping, holds, true);
    }

    /** The same where there is no place for what is to be kept. */
    public Deletion keepingNothing() {
        return with(keeping.withoutImages(), holds, shown);
    }

    /** The same under holds. */
    public Deletion under(List<Hold> inForce) {
        return with(keeping, inForce, shown);
    }

    private Deletion with(Keeping kept, List<Hold> inForce, boolean toBeShown) {
        return new Deletion(
                program,
                target,
                scopes,
                sparing,
                writes,
                succession,
                marked,
                visible,
                kept,
                images,
                inForce,
                counted,
                now,
                patience,
                toBeShown);
    }
}
