// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Requests and conditions that somebody has written who means no good: refused with a reason, quickly, or read as they stand. */
class ForgedDocumentTest {

    private static final String WHOLE =
            "{\"version\":1,\"operation\":\"erase\",\"table\":\"boat\",\"selection\":{\"keys\":[{\"id\":17}]},"
                    + "\"expect\":1,\"at-most\":5,\"at-most-percent\":2.5,\"on-blocked\":\"skip\",\"include-marked\":true,"
                    + "\"archive\":false,\"rules\":{\"fee.mooring_id\":\"block\"},\"order-by\":[\"id desc\"],\"limit\":3,"
                    + "\"and\":{\"op\":\"=\",\"args\":[{\"property\":\"name\"},\"Osprey\"]},\"because\":\"sold\"}";

    @Test
    void theDocumentThatIsForgedIsReadAsItStands() {
        Request read = JsonReader.request(WHOLE);
        assertThat(read.limits().atMost()).isEqualTo(5);
        assertThat(read.includesMarked()).isTrue();
        assertThat(read.archived()).isFalse();
        assertThat(read.first()).isEqualTo(3);
    }

    /** Each of these was taken for something else, or for nothing, and so selected more than it says. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "\"expect\":1|\"expect\":\"1\"",
                "\"expect\":1|\"expect\":1.5",
                "\"expect\":1|\"expect\":true",
                "\"expect\":1|\"expect\":99999999999999999999",
                "\"at-most\":5|\"at-most\":\"5\"",
                "\"at-most\":5|\"at-most\":[5]",
                "\"at-most\":5|\"at-most\":5,\"at-most\":500",
                "\"at-most\":5|\"at_most\":5",
                "\"at-most-percent\":2.5|\"at-most-percent\":\"2.5\"",
                "\"on-blocked\":\"skip\"|\"on-blocked\":\"spair\"",
                "\"on-blocked\":\"skip\"|\"on-blocked\":7",
                "\"include-marked\":true|\"include-marked\":\"true\"",
                "\"archive\":false|\"archive\":\"false\"",
                "\"archive\":false|\"archive\":0",
                "\"rules\":{\"fee.mooring_id\":\"block\"}|\"rules\":[\"block\"]",
                "\"rules\":{\"fee.mooring_id\":\"block\"}|\"rules\":\"fee.mooring_id=block\"",
                "\"rules\":{\"fee.mooring_id\":\"block\"}|\"rules\":{\"fee.mooring_id\":1}",
                "\"order-by\":[\"id desc\"]|\"order-by\":\"id desc\"",
                "\"order-by\":[\"id desc\"]|\"order-by\":[1]",
                "\"limit\":3|\"limit\":\"3\"",
                "\"limit\":3|\"limit\":0",
                "\"and\":{|\"and\":null,\"or\":{",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[{\"\":17}]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[{\"id\":null}]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[{\"id\":{}}]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[{\"id\":[17]}]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[null]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[\"\"]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[[17]]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":{\"id\":17}}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[{\"id\":17,\"id\":18}]}",
                "{\"keys\":[{\"id\":17}]}|{\"keys\":[{\"id\":1e9000000}]}",
                "{\"keys\":[{\"id\":17}]}|{\"\":true}",
                "{\"keys\":[{\"id\":17}]}|{\"every-row\":\"true\"}",
                "{\"keys\":[{\"id\":17}]}|{\"every-row\":1}",
                "{\"keys\":[{\"id\":17}]}|{\"every-row\":true,\"every-row\":true}",
                "{\"keys\":[{\"id\":17}]}|{\"orphans-of\":[\"fee.mooring_id\"]}",
                "{\"keys\":[{\"id\":17}]}|{\"match\":{\"name\":{\"x\":1}}}",
                "{\"keys\":[{\"id\":17}]}|[]",
                "{\"keys\":[{\"id\":17}]}|null",
                "\"version\":1|\"version\":\"1\"",
                "\"version\":1|\"version\":1.0",
                "\"version\":1|\"version\":2",
                "\"table\":\"boat\"|\"table\":17",
                "\"table\":\"boat\"|\"table\":\"\"",
                "\"table\":\"boat\"|\"table\":\"boat\",\"table\":\"skipper\"",
                "\"operation\":\"erase\"|\"operation\":\"ERASE\"",
                "\"operation\":\"erase\"|\"operation\":[\"erase\"]",
                "\"op\":\"=\"|\"op\":\"=\",\"then\":\"drop\"",
                "\"op\":\"=\"|\"op\":\"~\"",
                "\"property\":\"name\"|\"property\":17",
                "\"because\":\"sold\"|\"because\":{\"x\":1}",
                "\"because\":\"sold\"|\"without-confirmation\":\"me\"",
                "\"because\":\"sold\"}|\"because\":\"sold\"} {}",
            })
    void aForgedMemberIsAnError(String change) {
        String[] parts = change.split("\\|", 2);
        assertThat(WHOLE).contains(parts[0]);
        String forged = WHOLE.replace(parts[0], parts[1]);
        assertThatThrownBy(() -> JsonReader.request(forged)).as(forged).isInstanceOf(MisuseException.class);
    }

    @Test
    void nothingTakesLong() {
        List<String> hostile = new ArrayList<>();
        for (String given : List.of(
                "{\"timestamp\":\"" + "T".repeat(20_000) + "\"}",
                "{\"date\":\"" + "9".repeat(1_000_000) + "\"}",
                "1e9000000",
                "9".repeat(100_000),
                "\"" + "x".repeat(70_000_000) + "\"",
                "[".repeat(100_000))) {
            hostile.add("{\"op\":\"=\",\"args\":[{\"property\":\"name\"}," + given + "]}");
        }
        hostile.add("{\"op\":\"not\",\"args\":[".repeat(50_000));
        hostile.add("[" + "1,".repeat(3_000_000) + "1]");
        for (String condition : hostile) {
            assertTimeoutPreemptively(
                    Duration.ofSeconds(10), () -> assertThatThrownBy(() -> JsonReader.condition(condition))
                            .isInstanceOf(MisuseException.class));
        }
    }

    /** Letters changed, taken out, doubled: a request that is read, or a reason, and never anything else. */
    @Test
    void whateverIsChangedEndsInARequestOrAReason() {
        Random random = new Random(20261126);
        int refused = 0;
        int cases = 200 * Integer.getInteger("vacancy.cases", 80) / 80 * 10;
        for (int i = 0; i < cases; i++) {
            StringBuilder forged = new StringBuilder(WHOLE);
            for (int change = 0; change <= random.nextInt(3); change++) {
                int at = random.nextInt(forged.length());
                switch (random.nextInt(4)) {
                    case 0 -> forged.deleteCharAt(at);
                    case 1 -> forged.insert(at, "{}[]\":,0e-nt\u202e\\".charAt(random.nextInt(14)));
                    case 2 -> forged.setCharAt(at, (char) random.nextInt(0x250));
                    default ->
                        forged.insert(at, forged.substring(at, Math.min(forged.length(), at + random.nextInt(40))));
                }
            }
            try {
                JsonReader.request(forged.toString());
            } catch (MisuseException reason) {
                refused++;
                assertThat(reason.getMessage()).isNotBlank();
            }
        }
        assertThat(refused).isGreaterThan(cases / 2);
    }
}
