// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import io.vacancy.spi.HashChain;
import io.vacancy.spi.SealedEntry;
import io.vacancy.spi.TrailEnds;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.Verification;
import java.util.Iterator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Follows a chain of sealed entries, and says where it is broken first. */
public record ChainVerifier(HashChain chain) {

    /**
     * Follows the chain from its begin.
     *
     * @param links in the order of their positions
     * @param ends what the store says of the chain's end, and of entries outside it
     * @param kept a head that was kept elsewhere, or null
     */
    public Verification verify(Stream<SealedEntry> links, TrailEnds ends, @Nullable ChainHead kept) {
        ChainHead head = ChainHead.NONE;
        IntegrityViolation flaw = null;
        Iterator<SealedEntry> each = links.iterator();
        while (flaw == null && each.hasNext()) {
            SealedEntry link = each.next();
            flaw = flaw(head, link, kept);
            head = flaw == null ? link.seal() : head;
        }
        if (flaw == null) {
            flaw = end(head, ends, kept);
        }
        return new Verification(head, ends.unsealed(), ends.oldestUnsealed(), flaw);
    }

    private @Nullable IntegrityViolation flaw(ChainHead before, SealedEntry link, @Nullable ChainHead kept) {
        long wanted = before.position() + 1;
        if (link.seal().position() != wanted) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.REMOVED, wanted, null, "The seal at this place is gone.");
        }
        String content = link.content();
        if (content == null) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.REMOVED, wanted, link.entry(), "The entry that was sealed here is gone.");
        }
        if (!chain.after(before, content).equals(link.seal())) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.CHANGED,
                    wanted,
                    link.entry(),
                    "The entry is not what was sealed here: it was changed or put in another place, the seal was, or"
                            + " another key was used.");
        }
        if (kept != null && kept.position() == wanted && !kept.equals(link.seal())) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.CHANGED,
                    wanted,
                    link.entry(),
                    "The trail was sealed anew: the head that was kept elsewhere says otherwise of this place.");
        }
        return link.astray() == null
                ? null
                : new IntegrityViolation(IntegrityViolation.Kind.CHANGED, wanted, link.entry(), link.astray());
    }

    private static @Nullable IntegrityViolation end(ChainHead head, TrailEnds ends, @Nullable ChainHead kept) {
        ChainHead own = ends.head();
        if (own == null || !own.equals(head)) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.CUT,
                    head.position() + 1,
                    null,
                    "The chain ends at " + head.position() + ", and the trail's own head "
                            + (own == null
                                    ? "is gone."
                                    : own.position() == head.position()
                                            ? "has another digest."
                                            : "is at " + own.position() + "."));
        }
        if (kept != null && kept.position() > head.position()) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.CUT,
                    head.position() + 1,
                    null,
                    "The chain ends at " + head.position() + ", and the head that was kept elsewhere is at "
                            + kept.position() + ".");
        }
        if (ends.missing() != null) {
            return new IntegrityViolation(
                    IntegrityViolation.Kind.REMOVED,
                    0,
                    ends.missing(),
                    "The entry waited for its seal, and is no longer there.");
        }
        return ends.stray() == null
                ? null
                : new IntegrityViolation(
                        IntegrityViolation.Kind.INSERTED,
                        0,
                        ends.stray(),
                        "The entry is neither sealed nor waiting for a seal, as every one is that Vacancy wrote.");
    }
}
