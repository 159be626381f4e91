package io.vacancy.trail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import io.vacancy.trail.Verification.Ends;
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
class VerificationTest {

    private static final Chain CHAIN = new Chain(null);

    private static List<Link> sealed(Chain chain, int entries) {
        List<Link> links = new ArrayList<>();
        Head head = Head.NONE;
        for (int i = 0; i < entries; i++) {
            String content = "{\"entry\":\"e" + i + "\",\"what\":\"" + "ü€𝄞".repeat(i % 3) + i + "\"}";
            head = chain.after(head, content);
            links.add(new Link(head, "e" + i, content, null));
        }
        return links;
    }

    private static Ends ends(List<Link> links) {
        Head head = links.isEmpty() ? Head.NONE : links.get(links.size() - 1).seal();
        return new Ends(head, 0, null, null, null);
    }

    private static Verification verified(List<Link> links, Ends ends, @Nullable Head kept) {
        return Verification.of(CHAIN, links.stream(), ends, kept);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 17})
    void whatWasSealedIsSound(int entries) {
        List<Link> links = sealed(CHAIN, entries);
        Verification found = verified(links, ends(links), null);
        assertThat(found.sound()).isTrue();
        assertThat(found.head().position()).isEqualTo(entries);
        for (Link link : links) {
            assertThat(verified(links, ends(links), link.seal()).sound()).isTrue();
        }
        assertThat(verified(links, ends(links), Head.NONE).sound()).isTrue();
    }

    private enum Change implements BiConsumer<List<Link>, Random> {
        CONTENT {
            @Override
            public void accept(List<Link> links, Random random) {
                int at = random.nextInt(links.size());
                Link link = links.get(at);
                String content = String.valueOf(link.content());
                int place = random.nextInt(content.length());
                String other =
                        content.substring(0, place) + (char) (content.charAt(place) ^ 1) + content.substring(place + 1);
                links.set(at, new Link(link.seal(), link.entry(), other, null));
            }
        },
        DIGEST {
            @Override
            public void accept(List<Link> links, Random random) {
                int at = random.nextInt(links.size());
                Link link = links.get(at);
                char[] digits = link.seal().digest().toCharArray();
                int place = random.nextInt(digits.length);
                digits[place] = digits[place] == '0' ? '1' : '0';
                links.set(
                        at,
                        new Link(
                                new Head(link.seal().position(), new String(digits)),
                                link.entry(),
                                link.content(),
                                null));
            }
        },
        GONE {
            @Override
            public void accept(List<Link> links, Random random) {
                int at = random.nextInt(links.size());
                links.set(at, new Link(links.get(at).seal(), links.get(at).entry(), null, null));
            }
        },
        SEAL_GONE {
            @Override
            public void accept(List<Link> links, Random random) {
                links.remove(random.nextInt(links.size()));
            }
        },
        EXCHANGED {
            @Override
            public void accept(List<Link> links, Random random) {
                int one = random.nextInt(links.size());
                int other = (one + 1 + random.nextInt(links.size() - 1)) % links.size();
                Link first = links.get(one);
                Link second = links.get(other);
                links.set(one, new Link(first.seal(), second.entry(), second.content(), null));
                links.set(other, new Link(second.seal(), first.entry(), first.content(), null));
            }
        },
        REORDERED {
            @Override
            public void accept(List<Link> links, Random random) {
                int one = random.nextInt(links.size());
                Collections.swap(links, one, (one + 1 + random.nextInt(links.size() - 1)) % links.size());
            }
        },
        ASTRAY {
            @Override
            public void accept(List<Link> links, Random random) {
                int at = random.nextInt(links.size());
                Link link = links.get(at);
                links.set(at, new Link(link.seal(), link.entry(), link.content(), "Column actor says nobody."));
            }
        },
        INSERTED {
            @Override
            public void accept(List<Link> links, Random random) {
                int at = random.nextInt(links.size());
                Head before = at == 0 ? Head.NONE : links.get(at - 1).seal();
                links.add(at, new Link(CHAIN.after(before, "{}"), "new", "{}", null));
            }
        }
    }

    @Test
    void anyChangeAtAnyPlaceIsFound() {
        Random random = new Random(20);
        for (int i = 0; i < 400; i++) {
            List<Link> links = sealed(CHAIN, 2 + random.nextInt(30));
            Ends ends = ends(links);
            Change change = Change.values()[i % Change.values().length];
            change.accept(links, random);
            Verification found = verified(links, ends, null);
            assertThat(found.sound()).as(change + " in " + links.size()).isFalse();
            if (change == Change.INSERTED) {
                // Whoever can compute a seal can put one there; it is the next one that is wrong.
                continue;
            }
            // What is told to be sound is.
            List<Link> before = sealed(CHAIN, (int) found.head().position());
            assertThat(found.head()).isEqualTo(ends(before).head());
        }
    }

    @Test
    void theTailShowsAgainstAHead() {
        List<Link> links = sealed(CHAIN, 9);
        Head kept = links.get(8).seal();
        List<Link> cut = links.subList(0, 5);
        assertThat(verified(cut, ends(links), null).flaw()).isNotNull().returns(Flaw.Kind.CUT, Flaw::kind);
        assertThat(verified(cut, ends(cut), null).sound()).isTrue();
        assertThat(verified(cut, ends(cut), kept).flaw())
                .isNotNull()
                .returns(Flaw.Kind.CUT, Flaw::kind)
                .returns(6L, Flaw::position);
        // Sealed anew from the begin, with another history.
        List<Link> anew = sealed(new Chain(MacKey.of(new byte[16])), 9);
        assertThat(Verification.of(new Chain(MacKey.of(new byte[16])), anew.stream(), ends(anew), kept)
                        .flaw())
                .isNotNull()
                .returns(9L, Flaw::position);
    }

    @Test
    void whatIsOutsideTheChainIsLookedAt() {
        List<Link> links = sealed(CHAIN, 3);
        Head head = links.get(2).seal();
        assertThat(verified(links, new Ends(null, 0, null, null, null), null).flaw())
                .isNotNull()
                .returns(Flaw.Kind.CUT, Flaw::kind);
        assertThat(verified(links, new Ends(head, 0, null, "stray", null), null).flaw())
                .isNotNull()
                .returns(Flaw.Kind.INSERTED, Flaw::kind)
                .returns("stray", Flaw::entry);
        assertThat(verified(links, new Ends(head, 1, null, null, "missing"), null)
                        .flaw())
                .isNotNull()
                .returns(Flaw.Kind.REMOVED, Flaw::kind);
        assertThat(verified(links, new Ends(head, 5, null, null, null), null))
                .returns(true, Verification::sound)
                .returns(5L, Verification::unsealed);
    }

    @Test
    void aHeadReadsAsItIsWritten() {
        Head head = CHAIN.after(Head.NONE, "{}");
        assertThat(Head.read(head.toString())).isEqualTo(head);
        assertThat(Head.read(Head.NONE.toString())).isEqualTo(Head.NONE);
        Stream.of("", "1", ":", "-1:" + head.digest(), "x:" + head.digest(), "1:abc", "1:" + head.digest() + "0")
                .forEach(wrong -> assertThatThrownBy(() -> Head.read(wrong))
                        .as(wrong)
                        .isInstanceOf(MisuseException.class)
                        .hasMessageContaining("no head of a trail"));
    }
}
