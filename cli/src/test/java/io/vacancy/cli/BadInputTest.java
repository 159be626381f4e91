// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class BadInputTest {

    @TempDir
    Path folder;

    private Tool tool;

    @BeforeEach
    void build() throws Exception {
        tool = Tool.onHarbourIn(folder);
        Files.writeString(folder.resolve("notes.txt"), "not a database, just a note of some length\n");
    }

    static Stream<Arguments> badInput() {
        return Stream.of(
                bad(2, "did you mean boat?", "delete baot --key 17 --yes"),
                bad(2, "\"seventeen\" cannot be a value of boat.id", "delete boat --key seventeen --yes"),
                bad(2, "The key is empty.", "delete boat --key= --yes"),
                bad(2, "beyond the range", "delete boat --key 99999999999999999999 --yes"),
                bad(2, "Nothing of boat is selected", "delete boat --yes"),
                bad(2, "Several selections are given: --key and --every-row", "delete boat --key 17 --every-row --yes"),
                bad(2, "contradict each other", "delete boat --every-row --where id=1 --yes"),
                bad(2, "--at-once empties a table", "delete boat --key 17 --at-once --yes"),
                bad(2, "second statement is not allowed", "delete boat --where id=17;DROP --yes"),
                bad(2, "comments are not allowed", "delete boat --where id=17-- --yes"),
                bad(2, "did you mean length_m?", "delete boat --where lenght_m>3 --yes"),
                bad(
                        2,
                        "\"tomorrow\" cannot be a value of mooring.arrived_on",
                        "delete mooring --where arrived_on<'tomorrow'"),
                bad(2, "The rule book has no deletion @old", "delete @old --yes"),
                bad(2, "Column id,amount is not in table fee", "delete fee --every-row --limit 2 --order-by id,amount"),
                bad(2, "does not name a value", "delete boat --match HV-204"),
                bad(2, "keys.txt: there is no such file", "delete boat --keys-from keys.txt"),
                bad(2, "The keys cannot be read from", "delete boat --keys-from . --yes"),
                bad(2, "There is no key in standard input", "delete boat --keys-from - --yes"),
                bad(2, "notes.txt, line 1: \"not a database", "delete boat --keys-from notes.txt --yes"),
                bad(2, "It requires the name, fee,", "delete fee --every-row --yes"),
                bad(2, "is for lists of rows", "preview boat --key 17 --format csv"),
                bad(8, "at most 3 may be deleted", "delete fee --every-row --at-most 3 --yes"),
                bad(8, "match means exactly one", "delete boat --match harbour_id=7 --yes"),
                bad(2, "there is no terminal", "delete boat --key 17"),
                bad(2, "Give --yes, --answer TEXT, or --expect N", "delete boat --key 17"),
                bad(2, "No table is named", "delete --yes"),
                bad(2, "did you mean --key?", "delete boat --keyy 17 --yes"),
                bad(2, "must be 0 or more, not -1", "delete boat --key 17 --expect -1"),
                bad(2, "whose key has 2 columns", "delete berth_service --key 101 --yes"),
                bad(3, "Table boat has no row with id 99", "delete boat --key 99 --yes"),
                bad(4, "inspection", "delete boat --key 14 --yes"),
                bad(5, "Declined", "delete boat --key 17 --answer no"),
                bad(6, "Changed", "delete boat --key 17 --yes --fingerprint 00000000000000000000000000000000"),
                bad(8, "2 rows of boat were expected, but the selection has 1 row", "delete boat --key 17 --expect 2"));
    }

    private static Arguments bad(int exit, String message, String line) {
        return Arguments.of(line, exit, message);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("badInput")
    void isToldInOneMessageAndChangesNothing(String line, int exit, String message) throws Exception {
        long before = rows();

        Result result = tool.run((line + " --db harbour.db").split(" "));

        assertThat(result.exit()).isEqualTo(exit);
        assertThat(result.out() + result.err())
                .contains(message)
                .doesNotContain("\tat ")
                .doesNotContain("Exception");
        assertThat(rows()).isEqualTo(before);
    }

    @ParameterizedTest
    @CsvSource({
        "2, delete baot --key 17",
        "2, delete boat --keyy 17",
        "3, delete boat --key 99",
        "4, delete boat --key 14"
    })
    void isOneJsonDocumentWhereThatIsAsked(int exit, String line) throws Exception {
        Result result = tool.run((line + " --format json --db harbour.db").split(" "));

        assertThat(result.exit()).isEqualTo(exit);
        assertThat(new ObjectMapper().readTree(result.out()).has(exit == 2 ? "error" : "state"))
                .isTrue();
    }

    @Test
    void aMistypedFileIsNeverMade() throws Exception {
        Result result = tool.run("preview", "boat", "--key", "17", "--db", "harbor.db");
        Result url = tool.run("preview", "boat", "--key", "17", "--db", "jdbc:sqlite:harbor.db");

        assertThat(result.exit()).isEqualTo(2);
        assertThat(url.exit()).isEqualTo(2);
        assertThat(result.err()).contains("harbor.db does not exist, and none was made");
        assertThat(folder.resolve("harbor.db")).doesNotExist();
    }

    @Test
    void aFileThatIsNoDatabaseIsToldSo() throws Exception {
        Result result = tool.run("preview", "boat", "--key", "17", "--db", "notes.txt");

        assertThat(result.exit()).isEqualTo(2);
        assertThat(result.err()).contains("notes.txt is not an SQLite database");
        assertThat(folder.resolve("notes.txt")).hasContent("not a database, just a note of some length");
    }

    @Test
    void noDatabaseAtAllIsToldSo() throws Exception {
        assertThat(tool.run("relations").err()).contains("No database is named.");
        assertThat(tool.run("relations", "--db", "jdbc:unheardof:x").exit()).isEqualTo(2);
    }

    private long rows() throws Exception {
        return tool.count("boat") * 1000
                + tool.count("mooring") * 100
                + tool.count("fee")
                + tool.count("work_order WHERE boat_id IS NULL");
    }
}
