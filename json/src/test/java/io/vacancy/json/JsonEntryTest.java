// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Action;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.ArchiveDigests;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.IntegrityViolation;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import io.vacancy.trail.Verification;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Entries of the trail are what they were once they were written and read. */
class JsonEntryTest {

    private static final TrailEntry ENTRY = TrailEntry.of(new TrailEntry.Data(
            "01a20a61-7e73-7c06-9596-cafbafe54357",
            Instant.parse("2026-11-23T17:05:00.123456Z"),
            Kind.ERASE,
            Ending.DONE,
            "Mira Holm",
            null,
            Map.of("page", "/boats/17"),
            "sold",
            new Confirmation(
                    Confirmation.How.QUESTION, "Erase boat Osprey?", List.of("2 rows go with it."), "yes", "f1", null),
            "boat",
            "by 1 key",
            null,
            List.of(new AffectedRows("boat", Action.DELETE, null, null, 1, List.of("17"))),
            List.of(),
            ReceiptId.of("01a20a61-8016-75b5-9588-bb057008bb20"),
            1,
            null,
            ScopeMarks.NONE,
            null));

    @Test
    void itsFormIsPublic() {
        assertThat(JsonWriter.entry(ENTRY)).isEqualTo("""
                {"version":1,"entry":"01a20a61-7e73-7c06-9596-cafbafe54357","at":"2026-11-23T17:05:00.123456Z",\
                "kind":"erase","ending":"done","by":"Mira Holm","on-behalf-of":null,"origin":{"page":"/boats/17"},\
                "because":"sold","confirmation":{"how":"question","words":"Erase boat Osprey?",\
                "consequences":["2 rows go with it."],"answer":"yes","fingerprint":"f1"},\
                "table":"boat","selected":"by 1 key",\
                "deletion":null,"effects":[{"table":"boat","action":"delete","relation":null,"becomes":null,"rows":1,\
                "keys":["17"]}],"receipts":[],"receipt":"01a20a61-8016-75b5-9588-bb057008bb20","part":1,"reason":null}\
                """);
    }

    @Test
    void whatEarlierVersionsSealedIsReadAsTheyMeantIt() {
        String earlier = JsonWriter.entry(ENTRY)
                .replace("\"confirmation\"", "\"asked\"")
                .replace(",\"fingerprint\":\"f1\"", "")
                .replace("\"kind\":\"erase\"", "\"kind\":\"unlink\"")
                .replace("\"how\":\"question\"", "\"how\":\"unasked\"");
        TrailEntry read = JsonReader.entry(earlier);
        assertThat(read.kind()).isEqualTo(Kind.UNLINK_ORPHANS);
        assertThat(read.confirmation().how()).isEqualTo(Confirmation.How.WITHOUT_CONFIRMATION);
        assertThat(read.confirmation().answer()).isEqualTo("yes");
        assertThat(read.confirmation().fingerprint()).isNull();
    }

    @Test
    void anyEntryReadsAsItWasWritten() {
        Random random = new Random(8);
        for (int i = 0; i < 500; i++) {
            TrailEntry entry = any(random);
            String json = JsonWriter.entry(entry);
            assertThat(json).doesNotContain("\n");
            assertThat(JsonReader.entry(json)).isEqualTo(entry);
            // Sealed as it is written, so the same again.
            assertThat(JsonWriter.entry(JsonReader.entry(json))).isEqualTo(json);
        }
    }

    private static String text(Random random) {
        String letters = "abcÄ€𝄞 \"\\'\n\t\0/{}[],:";
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(12); i >= 0; i--) {
            int at = random.nextInt(letters.codePointCount(0, letters.length()));
            text.appendCodePoint(letters.codePointAt(letters.offsetByCodePoints(0, at)));
        }
        return text.toString();
    }

    private static String maybe(Random random) {
        return random.nextBoolean() ? text(random) : null;
    }

    private static ReceiptId receipt(Random random) {
        return ReceiptId.next(Instant.ofEpochSecond(random.nextInt(1_000_000)));
    }

    private static TrailEntry any(Random random) {
        Map<String, String> origin = new LinkedHashMap<>();
        List<AffectedRows> affected = new ArrayList<>();
        List<String> texts = new ArrayList<>();
        for (int i = random.nextInt(4); i > 0; i--) {
            origin.put(text(random) + i, text(random));
            texts.add(text(random));
            affected.add(new AffectedRows(
                    text(random),
                    random.nextBoolean() ? Action.values()[random.nextInt(Action.values().length)] : null,
                    maybe(random),
                    maybe(random),
                    random.nextLong() >>> 1,
                    texts));
        }
        Confirmation.How how = Confirmation.How.values()[random.nextInt(Confirmation.How.values().length)];
        return TrailEntry.of(new TrailEntry.Data(
                text(random),
                Instant.ofEpochSecond(random.nextInt(), random.nextInt(1_000_000_000)),
                Kind.values()[random.nextInt(Kind.values().length)],
                Ending.values()[random.nextInt(Ending.values().length)],
                text(random),
                maybe(random),
                origin,
                maybe(random),
                random.nextBoolean()
                        ? new Confirmation(how, text(random), texts, maybe(random), maybe(random), maybe(random))
                        : null,
                maybe(random),
                text(random),
                maybe(random),
                affected,
                texts.stream().map(text -> receipt(random)).toList(),
                random.nextBoolean() ? receipt(random) : null,
                random.nextInt(9),
                maybe(random),
                ScopeMarks.NONE,
                random.nextBoolean()
                        ? null
                        : new ArchiveDigests(
                                "ab".repeat(32),
                                List.of(new ArchiveDigests.Images(
                                        random.nextInt(9), "boat", random.nextLong(9), "cd".repeat(32))))));
    }

    @Test
    void whatIsNoEntryIsRefused() {
        String json = JsonWriter.entry(ENTRY);
        for (String wrong : List.of(
                "",
                "{}",
                "no JSON",
                json.replace("\"version\":1", "\"version\":2"),
                json.replace("\"kind\":\"erase\"", "\"kind\":\"melt\""),
                json.replace("\"by\":\"Mira Holm\",", ""),
                json.replace("2026-11-23T17", "yesterday"))) {
            assertThatThrownBy(() -> JsonReader.entry(wrong)).as(wrong).isInstanceOf(MisuseException.class);
        }
    }

    @Test
    void anEventIsACloudEvent() throws Exception {
        JsonNode event = new ObjectMapper().readTree(JsonWriter.event(ENTRY, "/harbour"));
        List<String> names = new ArrayList<>();
        event.fieldNames().forEachRemaining(names::add);
        // Attribute names of CloudEvents are lower-case letters and digits, and these are the required ones and four
        // more.
        assertThat(names)
                .containsExactly("specversion", "id", "source", "type", "subject", "time", "datacontenttype", "data");
        assertThat(event.path("time").asText()).isEqualTo("2026-11-23T17:05:00.123456Z");
        assertThat(event.path("data").path("version").asInt()).isEqualTo(1);
    }

    @Test
    void aVerificationIsADocument() throws Exception {
        ChainHead head = new ChainHead(3, "ab".repeat(32));
        JsonNode verified = new ObjectMapper()
                .readTree(new JsonWriter().verification(new Verification(head, 2, Instant.EPOCH, null), List.of()));
        assertThat(verified.path("verified").asBoolean()).isTrue();
        assertThat(verified.path("head").asText()).isEqualTo(head.toString());
        assertThat(verified.path("unsealed").asInt()).isEqualTo(2);
        IntegrityViolation flaw =
                new IntegrityViolation(IntegrityViolation.Kind.REMOVED, 4, null, "The seal at this place is gone.");
        JsonNode flawed = new ObjectMapper()
                .readTree(new JsonWriter().verification(new Verification(head, 0, null, flaw), List.of()));
        assertThat(flawed.path("verified").asBoolean(true)).isFalse();
        assertThat(flawed.path("violation").path("kind").asText()).isEqualTo("removed");
        assertThat(flawed.path("violation").path("position").asInt()).isEqualTo(4);
    }
}
