// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import com.code_intelligence.jazzer.junit.FuzzTest;
import io.vacancy.cli.rows.KeyFile;
import io.vacancy.failure.VacancyException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.schema.Schema;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/**
 * Everything that reads what comes from outside, on bytes that are looked for by the code they reach ({@code -Pfuzz});
 * without the profile on a few of them. It reads them, or refuses in words.
 */
class ReaderFuzzTest {

    /** @param data the first byte says which reader */
    @FuzzTest(maxDuration = "1m")
    void readsOrRefuses(byte[] data) throws IOException {
        if (data.length == 0) {
            return;
        }
        byte[] rest = Arrays.copyOfRange(data, 1, data.length);
        String text = new String(rest, StandardCharsets.UTF_8);
        try {
            switch (Math.floorMod(data[0], 6)) {
                case 0 -> SearchCondition.read(text);
                case 1 -> JsonReader.condition(text);
                case 2 -> JsonReader.request(text);
                case 3 -> RuleBookFile.read(text, "fuzz.yaml");
                case 4 -> KeyFile.read(new StringReader(text), "keys", KeyFileTest.table("pier_id", "berth_no"));
                default -> saved(rest);
            }
        } catch (VacancyException told) {
            if (String.valueOf(told.getMessage()).isBlank()) {
                throw new AssertionError("nothing is said", told);
            }
        }
    }

    private static void saved(byte[] content) throws IOException {
        Path file = Files.createTempFile("fuzz", ".jsonl");
        try {
            Files.write(file, content);
            SavedFile.open(file).each(new Schema(List.of(), List.of()), (line, row) -> {});
        } finally {
            Files.delete(file);
        }
    }
}
