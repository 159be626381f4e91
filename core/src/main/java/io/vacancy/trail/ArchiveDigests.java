// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import java.util.List;

/**
 * By what is found that somebody has changed the archive since: SHA-256 over what was archived with an entry. The entry is
 * sealed, and they with it.
 *
 * @param receipt of the JSON document of this part of the receipt, in hexadecimal digits
 * @param images of the archived rows, line by line; none where nothing was archived, or where the trail is sealed neither
 *     with a secret nor under an anchor, so that they would prove nothing
 */
public record ArchiveDigests(String receipt, List<Images> images) {

    public ArchiveDigests {
        images = List.copyOf(images);
    }

    /**
     * Of the archived rows of one line.
     *
     * @param line its number within the receipt
     * @param rows how many there were
     * @param digest in hexadecimal digits; of columns and values, in the order in which they were archived
     */
    public record Images(int line, String table, long rows, String digest) {}
}
