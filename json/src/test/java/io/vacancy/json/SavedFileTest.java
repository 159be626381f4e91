// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.json.saved.SavedFileWriter;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.trail.MacKey;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files of saved rows: read as they were written, or refused in words. */
class SavedFileTest {

    private static final MacKey KEY = MacKey.of("of the harbour office".getBytes(StandardCharsets.UTF_8));
    private static final MacKey OTHER = MacKey.of("of somebody else, sir".getBytes(StandardCharsets.UTF_8));
    private static final TableName BOAT = TableName.of("boat");
    private static final Schema SCHEMA = new Schema(List.of(), List.of());
    private static final int FORGERIES = Integer.getInteger("vacancy.fuzz", 1_500);

    @TempDir
    private Path folder;

    @Test
    void whatWasWrittenIsRead() throws IOException {
        assertThat(rows(SavedFile.open(saved("open", null)))).isEqualTo(written());
        SavedFile sealed = SavedFile.open(saved("sealed", KEY), KEY);
        assertThat(rows(sealed)).isEqualTo(written());
        assertThat(sealed.authenticated()).isTrue();
        assertThat(SavedFile.open(folder.resolve("open")).authenticated()).isFalse();
    }

    @Test
    void aSealIsAskedForAndLookedAt() throws IOException {
        Path sealed = saved("sealed", KEY);
        Path open = saved("open", null);
        assertThatThrownBy(() -> SavedFile.open(sealed))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("it is sealed with a secret, and none was given");
        assertThatThrownBy(() -> SavedFile.open(sealed, OTHER))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("line 1 is not as it was written");
        assertThatThrownBy(() -> SavedFile.open(open, KEY))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("it is not sealed");
    }

    /** Whoever has no secret can compute the digests of an open file, and no seal. */
    @Test
    void whoKnowsTheFormWritesNoSealedFile() throws IOException {
        Path sealed = saved("sealed", KEY);
        List<String> lines = Files.readAllLines(sealed);
        for (int line = 0; line < lines.size(); line++) {
            List<String> forged = new ArrayList<>(lines);
            forged.set(line, lines.get(line).replaceFirst("\"(boat|Osprey|Heron|Kittiwake)\"", "\"mooring\""));
            forged.set(line, forged.get(line).replace("\"rows\":3", "\"rows\":2"));
            Path file = Files.write(folder.resolve("forged" + line), digested(forged));
            assertThatThrownBy(() -> rows(SavedFile.open(file, KEY)))
                    .as("line %d", line + 1)
                    .isInstanceOf(MisuseException.class);
        }
    }

    /** Lines that are cut, doubled, moved, changed in a byte, with and without their digests made anew. */
    @Test
    void noForgeryIsTakenForWhatWasSaved() throws IOException {
        Random random = new Random(20_26);
        List<String> open = Files.readAllLines(saved("open", null));
        List<String> sealed = Files.readAllLines(saved("sealed", KEY));
        int refused = 0;
        for (int i = 0; i < FORGERIES; i++) {
            boolean withKey = random.nextBoolean();
            List<String> lines = new ArrayList<>(withKey ? sealed : open);
            forge(lines, random);
            boolean digestsMadeAnew = !withKey && random.nextInt(3) == 0;
            Path file = Files.write(folder.resolve("forged"), digestsMadeAnew ? digested(lines) : lines);
            Map<Integer, List<Row>> read =
                    assertTimeoutPreemptively(Duration.ofSeconds(10), () -> read(file, withKey), () -> "of " + lines);
            if (read == null) {
                refused++;
            } else if (!digestsMadeAnew) {
                assertThat(read).as("of %s", lines).isEqualTo(written());
            }
        }
        assertThat(refused).isGreaterThan(FORGERIES * 3 / 4);
    }

    /** What it has; null where it is refused in words. */
    private @Nullable Map<Integer, List<Row>> read(Path file, boolean withKey) {
        try {
            return rows(withKey ? SavedFile.open(file, KEY) : SavedFile.open(file));
        } catch (MisuseException told) {
            assertThat(told.getMessage()).containsAnyOf("line ", "sealed", "cannot be read");
            return null;
        }
    }

    private static void forge(List<String> lines, Random random) {
        int changes = 1 + random.nextInt(2);
        for (int i = 0; i < changes && !lines.isEmpty(); i++) {
            int at = random.nextInt(lines.size());
            String line = lines.get(at);
            switch (random.nextInt(7)) {
                case 0 -> lines.remove(at);
                case 1 -> lines.add(at, line);
                case 2 -> Collections.swap(lines, at, random.nextInt(lines.size()));
                case 3 -> lines.set(at, line.substring(0, random.nextInt(line.length() + 1)));
                case 4 -> lines.set(at, line.replaceFirst("\"(check|seal)\"", "\"" + random.nextInt(9) + "\""));
                case 5 -> lines.set(at, line.replaceFirst(":[^,{\\[]+", ":" + ODD[random.nextInt(ODD.length)]));
                default -> {
                    StringBuilder changed = new StringBuilder(line);
                    if (!line.isEmpty()) {
                        changed.setCharAt(random.nextInt(line.length()), (char) random.nextInt(0x250));
                    }
                    lines.set(at, changed.toString().replace('\n', ' ').replace('\r', ' '));
                }
            }
        }
    }

    private static final String[] ODD = {
        "null",
        "-1",
        "1e999999999",
        "\"\"",
        "[]",
        "{}",
        "{\"decimal\":\"1e9999999\"}",
        "{\"date\":\"never\"}",
        "true",
        "[".repeat(5_000),
        "\"boat\",\"table\":\"fee\"",
        "99999999999999999999"
    };

    /** The lines with the digests that they would have if they had been written so. */
    private static List<String> digested(List<String> lines) {
        List<String> digested = new ArrayList<>();
        String before = "";
        for (String line : lines) {
            int at = Math.max(line.lastIndexOf(",\"check\":\""), line.lastIndexOf(",\"seal\":\""));
            String open = at < 0 ? line : line.substring(0, at);
            String member = line.contains(",\"seal\":\"") ? "seal" : "check";
            String all = HexFormat.of().formatHex(sha256(before + open));
            before = member.equals("seal") ? all : all.substring(0, 16);
            digested.add(open + ",\"" + member + "\":\"" + before + "\"}");
        }
        return digested;
    }

    private static byte[] sha256(String text) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
        } catch (java.security.NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    private static Map<Integer, List<Row>> written() {
        return Map.of(0, List.of(row(1, "Osprey"), row(2, "Heron"), row(3, "Kittiwake")));
    }

    private static Row row(long id, String name) {
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("id", id);
        values.put("name", name);
        return new Row(BOAT, values);
    }

    private static Map<Integer, List<Row>> rows(SavedFile file) {
        Map<Integer, List<Row>> rows = new LinkedHashMap<>();
        file.each(SCHEMA, (line, row) -> rows.computeIfAbsent(line, number -> new ArrayList<>())
                .add(row));
        return rows;
    }

    private Path saved(String name, @Nullable MacKey key) {
        Path file = folder.resolve(name);
        try (SavedFileWriter writer = new SavedFileWriter(file, key)) {
            ReceiptId receipt = ReceiptId.of("01a20791-5371-7acc-8933-1b2981df1963");
            Instant at = Instant.parse("2026-05-04T10:00:00Z");
            List<ArchivedColumn> columns =
                    List.of(new ArchivedColumn("id", "BIGINT"), new ArchivedColumn("name", "VARCHAR(40)"));
            writer.begin(
                    receipt,
                    List.of(ArchivedRows.of(new ArchivedRows.Data(
                            receipt,
                            1,
                            0,
                            BOAT,
                            ArchivedRows.Kind.ROWS,
                            null,
                            3,
                            3,
                            3,
                            "Mira Holm",
                            at,
                            "sold",
                            null,
                            false,
                            columns,
                            null))));
            written().get(0).forEach(row -> writer.take(0, row));
            writer.end();
            writer.committed();
        }
        return file;
    }
}
