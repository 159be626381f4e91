// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.trail.ChainHead;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What a store knows of its trail besides the chain.
 *
 * @param head where the chain ended when it was sealed last; null where the store has lost it
 * @param stray an entry that is neither sealed nor waiting for it, or null
 * @param missing an entry that waits for its seal and is not there, or null
 */
public record TrailEnds(
        @Nullable ChainHead head,
        long unsealed,
        @Nullable Instant oldestUnsealed,
        @Nullable String stray,
        @Nullable String missing) {}
