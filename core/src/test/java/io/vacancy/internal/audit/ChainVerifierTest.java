// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import io.vacancy.spi.HashChain;
import io.vacancy.spi.SealedEntry;
import io.vacancy.spi.TrailEnds;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.MacKey;
import io.vacancy.trail.Verification;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.function.BiConsumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Chains in memory: any of them is sound as it was sealed, and none is once it was changed. */
class ChainVerifierTest {

    private static final HashChain CHAIN = new HashChain(null);

    private static List<SealedEntry> sealed(HashChain chain, int entries) {
        List<SealedEntry> links = new ArrayList<>();
        ChainHead head = ChainHead.NONE;
        for (int i = 0; i < entries; i++) {
            String content = "{\"entry\":\"e" + i + "\",\"what\":\"" + "ü€𝄞".repeat(i % 3) + i + "\"}";
            head = chain.after(head, content);
            links.add(new SealedEntry(head, "e" + i, content, null));
        }
        return links;
    }

    private static TrailEnds ends(List<SealedEntry> links) {
        ChainHead head =
                links.isEmpty() ? ChainHead.NONE : links.get(links.size() - 1).seal();
        return new TrailEnds(head, 0, null, null, null);
    }

    private static Verification verified(List<SealedEntry> links, TrailEnds ends, @Nullable ChainHead kept) {
        return new ChainVerifier(CHAIN).verify(links.stream(), ends, kept);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 17})
    void whatWasSealedIsSound(int entries) {
        List<SealedEntry> links = sealed(CHAIN, entries);
        Verification found = verified(links, ends(links), null);
        assertThat(found.verified()).isTrue();
        assertThat(found.head().position()).isEqualTo(entries);
        for (SealedEntry link : links) {
            assertThat(verified(links, ends(links), link.seal()).verified()).isTrue();
        }
        assertThat(verified(links, ends(links), ChainHead.NONE).verified()).isTrue();
    }

    private enum Change implements BiConsumer<List<SealedEntry>, Random> {
        CONTENT {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int at = random.nextInt(links.size());
                SealedEntry link = links.get(at);
                String content = String.valueOf(link.content());
                int place = random.nextInt(content.length());
                String other =
                        content.substring(0, place) + (char) (content.charAt(place) ^ 1) + content.substring(place + 1);
                links.set(at, new SealedEntry(link.seal(), link.entry(), other, null));
            }
        },
        DIGEST {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int at = random.nextInt(links.size());
                SealedEntry link = links.get(at);
                char[] digits = link.seal().digest().toCharArray();
                int place = random.nextInt(digits.length);
                digits[place] = digits[place] == '0' ? '1' : '0';
                links.set(
                        at,
                        new SealedEntry(
                                new ChainHead(link.seal().position(), new String(digits)),
                                link.entry(),
                                link.content(),
                                null));
            }
        },
        GONE {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int at = random.nextInt(links.size());
                links.set(
                        at, new SealedEntry(links.get(at).seal(), links.get(at).entry(), null, null));
            }
        },
        SEAL_GONE {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                links.remove(random.nextInt(links.size()));
            }
        },
        EXCHANGED {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int one = random.nextInt(links.size());
                int other = (one + 1 + random.nextInt(links.size() - 1)) % links.size();
                SealedEntry first = links.get(one);
                SealedEntry second = links.get(other);
                links.set(one, new SealedEntry(first.seal(), second.entry(), second.content(), null));
                links.set(other, new SealedEntry(second.seal(), first.entry(), first.content(), null));
            }
        },
        REORDERED {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int one = random.nextInt(links.size());
                Collections.swap(links, one, (one + 1 + random.nextInt(links.size() - 1)) % links.size());
            }
        },
        ASTRAY {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int at = random.nextInt(links.size());
                SealedEntry link = links.get(at);
                links.set(at, new SealedEntry(link.seal(), link.entry(), link.content(), "Column actor says nobody."));
            }
        },
        INSERTED {
            @Override
            public void accept(List<SealedEntry> links, Random random) {
                int at = random.nextInt(links.size());
                ChainHead before = at == 0 ? ChainHead.NONE : links.get(at - 1).seal();
                links.add(at, new SealedEntry(CHAIN.after(before, "{}"), "new", "{}", null));
            }
        }
    }

    @Test
    void anyChangeAtAnyPlaceIsFound() {
        Random random = new Random(20);
        for (int i = 0; i < 400; i++) {
            List<SealedEntry> links = sealed(CHAIN, 2 + random.nextInt(30));
            TrailEnds ends = ends(links);
            Change change = Change.values()[i % Change.values().length];
            change.accept(links, random);
            Verification found = verified(links, ends, null);
            assertThat(found.verified()).as(change + " in " + links.size()).isFalse();
            if (change == Change.INSERTED) {
                // Whoever can compute a seal can put one there; it is the next one that is wrong.
                continue;
            }
            // What is told to be sound is.
            List<SealedEntry> before = sealed(CHAIN, (int) found.head().position());
            assertThat(found.head()).isEqualTo(ends(before).head());
        }
    }

    @Test
    void theTailShowsAgainstAHead() {
        List<SealedEntry> links = sealed(CHAIN, 9);
        ChainHead kept = links.get(8).seal();
        List<SealedEntry> cut = links.subList(0, 5);
        assertThat(verified(cut, ends(links), null).flaw())
                .isNotNull()
                .returns(IntegrityViolation.Kind.CUT, IntegrityViolation::kind);
        assertThat(verified(cut, ends(cut), null).verified()).isTrue();
        assertThat(verified(cut, ends(cut), kept).flaw())
                .isNotNull()
                .returns(IntegrityViolation.Kind.CUT, IntegrityViolation::kind)
                .returns(6L, IntegrityViolation::position);
        // Sealed anew from the begin, with another history.
        List<SealedEntry> anew = sealed(new HashChain(MacKey.of(new byte[16])), 9);
        assertThat(new ChainVerifier(new HashChain(MacKey.of(new byte[16])))
                        .verify(anew.stream(), ends(anew), kept)
                        .flaw())
                .isNotNull()
                .returns(9L, IntegrityViolation::position);
    }

    @Test
    void whatIsOutsideTheChainIsLookedAt() {
        List<SealedEntry> links = sealed(CHAIN, 3);
        ChainHead head = links.get(2).seal();
        assertThat(verified(links, new TrailEnds(null, 0, null, null, null), null)
                        .flaw())
                .isNotNull()
                .returns(IntegrityViolation.Kind.CUT, IntegrityViolation::kind);
        assertThat(verified(links, new TrailEnds(head, 0, null, "stray", null), null)
                        .flaw())
                .isNotNull()
                .returns(IntegrityViolation.Kind.INSERTED, IntegrityViolation::kind)
                .returns("stray", IntegrityViolation::entry);
        assertThat(verified(links, new TrailEnds(head, 1, null, null, "missing"), null)
                        .flaw())
                .isNotNull()
                .returns(IntegrityViolation.Kind.REMOVED, IntegrityViolation::kind);
        assertThat(verified(links, new TrailEnds(head, 5, null, null, null), null))
                .returns(true, Verification::verified)
                .returns(5L, Verification::unsealed);
    }

    @Test
    void aHeadReadsAsItIsWritten() {
        ChainHead head = CHAIN.after(ChainHead.NONE, "{}");
        assertThat(ChainHead.read(head.toString())).isEqualTo(head);
        assertThat(ChainHead.read(ChainHead.NONE.toString())).isEqualTo(ChainHead.NONE);
        Stream.of("", "1", ":", "-1:" + head.digest(), "x:" + head.digest(), "1:abc", "1:" + head.digest() + "0")
                .forEach(wrong -> assertThatThrownBy(() -> ChainHead.read(wrong))
                        .as(wrong)
                        .isInstanceOf(MisuseException.class)
                        .hasMessageContaining("not the head of a trail"));
    }
}
