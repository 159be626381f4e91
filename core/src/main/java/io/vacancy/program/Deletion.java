package io.vacancy.program;

import io.vacancy.condition.Condition;
import io.vacancy.schema.TableName;
import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A program together with what belongs to one request: all that a store needs to know.
 *
 * @param target the rows to start from
 * @param scopes the conditions that hold on everything the caller may see or touch, for the tables that
 *     have one
 * @param shown whether what is found is shown to somebody or compared with what was shown, so that samples
 *     and a fingerprint are wanted; else only the counts of what was done
 * @param patience how long to wait for rows that somebody else holds; null for as long as the database does
 */
public record Deletion(
        Program program,
        Target target,
        Map<TableName, Condition> scopes,
        @Nullable Duration patience,
        boolean shown) {

    public Deletion {
        scopes = Map.copyOf(scopes);
    }

    /** The same, whose findings are shown to somebody. */
    public Deletion toBeShown() {
        return new Deletion(program, target, scopes, patience, true);
    }
}
