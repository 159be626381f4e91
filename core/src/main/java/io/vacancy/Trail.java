// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.internal.audit.ChainVerifier;
import io.vacancy.internal.audit.Sealing;
import io.vacancy.internal.execute.Installation;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.Verification;
import org.jspecify.annotations.Nullable;

/**
 * Seals the audit history, so that nobody changes it unnoticed, and tells whether somebody did. Serves all threads.
 *
 * <p>A chain proves that the entries are those that were sealed, all of them and in this order. It does not prove that
 * the last ones are there, unless a head is kept where whoever could cut them off cannot write; nor that nobody who may
 * write to the trail sealed it anew from some place on, unless it is sealed with a secret that they have not, or a head
 * is kept elsewhere; nor that what Vacancy was told, of who asked and why, was true.
 */
public final class Trail {

    private final Installation at;
    private final Sealing sealing;

    Trail(Installation at) {
        this.at = at;
        this.sealing = at.settings().sealing();
    }

    /** Whether there is a place for the trail, as {@link Archive#setUp()} makes it. */
    public boolean ready() {
        return at.store().archive().ready();
    }

    /**
     * Seals what is committed and not sealed yet. Vacancy does it by itself after what it does, once in a while; a
     * scheduler that calls it takes along what was written on callers' connections.
     *
     * @return where the chain ends now, to be kept elsewhere
     * @throws io.vacancy.failure.BusyException if somebody else is sealing for too long
     * @throws io.vacancy.failure.TrailIntegrityException if seals are gone up to which the trail is known to have been
     *     sealed, by {@link Vacancy.Builder#anchor}
     */
    public ChainHead seal() {
        at.wantsOwnTables();
        return sealing.seal(at.store().trail(), at.settings().clock.instant());
    }

    /**
     * Looks at the whole trail, from its begin, in time that grows with it and with a bounded heap; with the head that is
     * remembered outside the database, where there is one.
     */
    public Verification verify() {
        return verify(sealing.remembered());
    }

    /**
     * The same, with a head that was kept elsewhere.
     *
     * @param kept as {@link #seal()} gave it some time; null for none
     */
    public Verification verify(@Nullable ChainHead kept) {
        at.wantsOwnTables();
        ChainVerifier verifier = new ChainVerifier(sealing.chain());
        return at.store().trail().chain((links, ends) -> verifier.verify(links, ends, kept));
    }
}
