// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.trail.ChainHead;
import org.jspecify.annotations.Nullable;

/**
 * A seal and the entry that it is of, as the database has them.
 *
 * @param seal position and digest
 * @param entry the identifier of the entry
 * @param content the entry as it was written; null where it is not there
 * @param astray what stands beside the content and does not agree with it, in a sentence; null where all does
 */
public record SealedEntry(
        ChainHead seal,
        String entry,
        @Nullable String content,
        @Nullable String astray) {}
