package io.vacancy.trail;

import java.time.Instant;
import java.util.Iterator;
import java.util.stream.Stream;
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

    /**
     * What a store knows of its trail besides the chain.
     *
     * @param head where the chain ended when it was sealed last; null where the store has lost it
     * @param stray an entry that is neither sealed nor waiting for it, or null
     * @param missing an entry that waits for its seal and is not there, or null
     */
    public record Ends(
            @Nullable ChainHead head,
            long unsealed,
            @Nullable Instant oldestUnsealed,
            @Nullable String stray,
            @Nullable String missing) {}

    /**
     * Follows the chain from its begin.
     *
     * @param links in the order of their positions
     * @param ends what the store says of the chain's end, and of entries outside it
     * @param kept a head that was kept elsewhere, or null
     */
    public static Verification of(HashChain chain, Stream<SealedEntry> links, Ends ends, @Nullable ChainHead kept) {
        ChainHead head = ChainHead.NONE;
        IntegrityViolation flaw = null;
        Iterator<SealedEntry> each = links.iterator();
        while (flaw == null && each.hasNext()) {
            SealedEntry link = each.next();
            flaw = flaw(chain, head, link, kept);
            head = flaw == null ? link.seal() : head;
        }
        if (flaw == null) {
            flaw = end(head, ends, kept);
        }
        return new Verification(head, ends.unsealed(), ends.oldestUnsealed(), flaw);
    }

    private static @Nullable IntegrityViolation flaw(
            HashChain chain, ChainHead before, SealedEntry link, @Nullable ChainHead kept) {
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

    private static @Nullable IntegrityViolation end(ChainHead head, Ends ends, @Nullable ChainHead kept) {
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
