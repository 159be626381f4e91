// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import org.jspecify.annotations.Nullable;

/**
 * Where it is remembered, outside the database, up to where the audit history was sealed: whoever may write to every
 * table cannot take seals away and have the application sign what is left. Serves all threads, and every instance that
 * seals the same history wants to share one.
 */
public interface ChainAnchor {

    /** The head that was sealed last, as far as it is remembered; null where none is. */
    @Nullable
    ChainHead remembered();

    /**
     * Remembers a head, unless a later one is remembered already. Called after the seals are committed; what is lost by a
     * crash before this is only that the newest seals are not protected yet.
     */
    void remember(ChainHead head);
}
