// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What looking at a whole trail found.
 *
 * @param head where the chain ends; where it is flawed, the last seal before that
 * @param unsealed how many entries wait for a seal, which nothing protects yet
 * @param oldestUnsealed when the oldest of them was written, or null
 * @param flaw the first one, or null
 */
public record Verification(
        ChainHead head,
        long unsealed,
        @Nullable Instant oldestUnsealed,
        @Nullable IntegrityViolation flaw) {

    /** Whether nothing is wrong. */
    public boolean verified() {
        return flaw == null;
    }
}
