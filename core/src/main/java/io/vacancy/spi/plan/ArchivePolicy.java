// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ReceiptId;
import io.vacancy.schema.TableName;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is to be kept of a deletion, where the database has a place for it.
 *
 * @param receipt the identifier under which it is kept
 * @param continued whether there may be parts of it already
 * @param part which part of the receipt it is, where the caller numbers them; 0 for the next one
 * @param actor who does it
 * @param because why, or null
 * @param at when it is done
 * @param images whether images are wanted at all
 * @param without tables of whose rows no image is kept
 * @param keysInTrail how many keys of an effect the trail is told
 * @param digests whether the trail is told digests of the images, by which it is found that somebody changed them
 * @param besides tables whose rows triggers remove, and of which images are kept as well
 * @param scopes under which scope it is done
 * @param until when the images of a table may go for good; without a limit where it says nothing
 * @param encrypted what is encrypted by the keys of persons, by table
 */
public record ArchivePolicy(
        ReceiptId receipt,
        boolean continued,
        int part,
        String actor,
        @Nullable String because,
        Instant at,
        boolean images,
        int keysInTrail,
        boolean digests,
        Set<TableName> without,
        Set<TableName> besides,
        ScopeMarks scopes,
        Map<TableName, Instant> until,
        Map<TableName, EncryptedColumns> encrypted) {

    public ArchivePolicy {
        without = Set.copyOf(without);
        besides = Set.copyOf(besides);
        until = Map.copyOf(until);
        encrypted = Map.copyOf(encrypted);
    }

    /** The same without images. */
    public ArchivePolicy withoutImages() {
        return new ArchivePolicy(
                receipt,
                continued,
                part,
                actor,
                because,
                at,
                false,
                keysInTrail,
                digests,
                without,
                besides,
                scopes,
                until,
                encrypted);
    }

    /** Whether images of this table's rows are kept. */
    public boolean keeps(TableName table) {
        return images && !without.contains(table);
    }

    /** When the images of a table may go for good; null without a limit. */
    public @Nullable Instant until(TableName table) {
        return until.get(table);
    }
}
