package io.vacancy.archive;

import io.vacancy.schema.TableName;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What one part of a receipt keeps of one table: the images of rows that went, or the old values of a link.
 *
 * @param receipt its identifier
 * @param part from 1; one for each transaction of the receipt
 * @param line its number within the receipt, from 0, in the order in which the preview told of it
 * @param links whether it is the old values of a link of rows that stayed, and not whole rows
 * @param relation through which the rows were reached, or null for the rows that were selected
 * @param rows how many images were kept
 * @param there how many of them are still there
 * @param left how many of them can still be brought back
 * @param by who did it
 * @param because why, or null where nobody said
 * @param until when the images may go for good, or null where nothing says so
 * @param held whether a hold is on all of them
 * @param columns the columns, with the types they had then
 */
public record Kept(
        String receipt,
        int part,
        int line,
        TableName table,
        boolean links,
        @Nullable String relation,
        long rows,
        long there,
        long left,
        String by,
        Instant at,
        @Nullable String because,
        @Nullable Instant until,
        boolean held,
        List<KeptColumn> columns) {

    public Kept {
        columns = List.copyOf(columns);
    }
}
