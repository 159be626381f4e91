// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import io.vacancy.spi.HashChain;
import io.vacancy.spi.TrailStore;
import io.vacancy.trail.ChainAnchor;
import io.vacancy.trail.ChainHead;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** The chain of seals: seals the trail, and never below a head that is remembered outside the database. Serves all threads. */
public record AnchoredChain(HashChain chain, @Nullable ChainAnchor anchor) {

    /** Seals what waits for it, and remembers where the chain ends now. */
    public ChainHead seal(TrailStore trail, Instant now) {
        ChainHead lowest = remembered();
        ChainHead head = trail.seal(chain, now, lowest == null ? ChainHead.NONE : lowest);
        if (anchor != null && !head.equals(lowest)) {
            anchor.remember(head);
        }
        return head;
    }

    /** Whether somebody who may write to every table cannot simply seal anew what they have changed. */
    public boolean proves() {
        return chain.secret() || anchor != null;
    }

    /** The head that is remembered, or null. */
    public @Nullable ChainHead remembered() {
        return anchor == null ? null : anchor.remembered();
    }
}
