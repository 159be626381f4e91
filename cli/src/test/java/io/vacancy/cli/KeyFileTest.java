// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import io.vacancy.cli.rows.KeyFile;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Key;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.UniqueKey;
import io.vacancy.schema.ValueKind;
import java.io.StringReader;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Lists of keys: each line is a key, or the list is refused in words and nothing of it is used. */
class KeyFileTest {

    private static final int LISTS = Integer.getInteger("vacancy.fuzz", 1_500);
    private static final List<String> PARTS = List.of(
            "7",
            "17",
            "a",
            "pier_id",
            "berth_no",
            ",",
            ",",
            "\n",
            "\n",
            "\"",
            "\"\"",
            "'",
            "=",
            "+1",
            "-2",
            "@x",
            "\t",
            "\r\n",
            "\r",
            "\0",
            "\ufeff",
            "\ufffe",
            " ",
            ";",
            "é",
            "\ud83d",
            "1e400",
            "0x7",
            "NULL",
            "''",
            "|",
            "\\",
            "\u0085");

    static Table table(String... key) {
        List<Column> columns = new ArrayList<>();
        for (String name : key) {
            columns.add(new Column(name, ColumnType.of(ValueKind.TEXT, "VARCHAR(40)"), false, false, false, null));
        }
        columns.add(new Column("note", ColumnType.of(ValueKind.TEXT, "VARCHAR(40)"), true, false, false, null));
        return new Table(
                TableName.of("berth_service"),
                false,
                columns,
                new UniqueKey("berth_service_pk", List.of(key)),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                null);
    }

    private static List<List<Object>> read(String text, Table table) {
        List<List<Object>> keys = new ArrayList<>();
        Iterator<Key> each =
                KeyFile.read(new StringReader(text), "keys.csv", table).iterator();
        while (each.hasNext()) {
            keys.add(new ArrayList<>(each.next().valuesFor(table)));
        }
        return keys;
    }

    @Test
    void whatPeopleWriteIsRead() {
        assertThat(read("17\n\n18\n", table("id"))).containsExactly(List.of("17"), List.of("18"));
        assertThat(read("\ufeffid\n17\n", table("id"))).containsExactly(List.of("17"));
        assertThat(read("pier_id,berth_no\n3,\"4,5\"\n", table("pier_id", "berth_no")))
                .containsExactly(List.of("3", "4,5"));
        assertThat(read("pier_id,berth_no\n3,\"\"\n", table("pier_id", "berth_no")))
                .containsExactly(List.of("3", ""));
        assertThatThrownBy(() -> read("pier_id,berth_no\n3,4\n,5\n", table("pier_id", "berth_no")))
                .isInstanceOf(MisuseException.class)
                .hasMessage("keys.csv, line 3: pier_id is empty.");
    }

    @Test
    void whateverIsInAListItIsReadOrRefusedInWords() {
        Random random = new Random(17);
        int read = 0;
        int refused = 0;
        for (int i = 0; i < LISTS; i++) {
            StringBuilder text = new StringBuilder(random.nextBoolean() ? "" : "pier_id,berth_no\n");
            for (int parts = random.nextInt(24); parts > 0; parts--) {
                text.append(PARTS.get(random.nextInt(PARTS.size())));
            }
            Table table = random.nextBoolean() ? table("id") : table("pier_id", "berth_no");
            try {
                List<List<Object>> keys = assertTimeoutPreemptively(
                        Duration.ofSeconds(10), () -> read(text.toString(), table), () -> "of " + text);
                assertThat(keys).as(text.toString()).allSatisfy(key -> assertThat(key)
                        .hasSize(table.identity().columns().size())
                        .doesNotContainNull());
                read++;
            } catch (MisuseException told) {
                assertThat(told.getMessage()).as(text.toString()).isNotBlank();
                refused++;
            }
        }
        assertThat(read).isGreaterThan(LISTS / 20);
        assertThat(refused).isGreaterThan(LISTS / 20);
    }
}
