// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion.VersionFlag;
import io.vacancy.harbour.HarbourOffice;
import io.vacancy.rulebook.RuleBookFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;

/** The published schemas say what the documents are, and what a rule book may hold. */
class SchemaTest {

    private static final Path SCHEMAS = Path.of("../docs/schemas");
    private static final ObjectMapper JSON = new ObjectMapper();

    /** A rule book with a key that is none, in each place that has keys, and where the schema has that place. */
    private static final Map<String, String> PLACES = Map.ofEntries(
            Map.entry("zzz: 1", ""),
            Map.entry("tables: {boat: {zzz: 1}}", "/properties/tables/additionalProperties"),
            Map.entry("tables: {boat: {marker: {zzz: 1}}}", "/$defs/marker"),
            Map.entry(
                    "tables: {boat: {audit-columns: {zzz: 1}}}",
                    "/properties/tables/additionalProperties/properties/audit-columns"),
            Map.entry("tables: {boat: {retention: {zzz: 1}}}", "/$defs/retention/oneOf/2"),
            Map.entry(
                    "relations: {a.b: {rules: cascade, zzz: 1}}", "/properties/relations/additionalProperties/oneOf/1"),
            Map.entry(
                    "tables: {boat: {forget: {keep: x, until: {zzz: 1}}}}",
                    "/$defs/policy/oneOf/0/oneOf/1/properties/until"),
            Map.entry("questions: [{zzz: 1}]", "/properties/questions/items"),
            Map.entry("approvals: [{zzz: 1}]", "/properties/approvals/items"),
            Map.entry("deletions: {a: {zzz: 1}}", "/properties/deletions/additionalProperties"));

    @TempDir
    private Path folder;

    private static JsonSchema schema(String name) throws IOException {
        return JsonSchemaFactory.getInstance(VersionFlag.V202012)
                .getSchema(Files.readString(SCHEMAS.resolve(name + ".schema.json")));
    }

    private static JsonNode yaml(String text) {
        return JSON.valueToTree(new Load(LoadSettings.builder().build()).loadFromString(text));
    }

    @Test
    void everyDocumentIsWhatItsSchemaSays() throws Exception {
        Tool tool = Tool.onHarbourIn(folder);
        Files.writeString(folder.resolve("rules.yaml"), HarbourOffice.ruleBook());
        Files.writeString(folder.resolve("two.yaml"), "version: 1\napprovals: {table: yard}\n");
        SoftAssertions all = new SoftAssertions();
        for (String line : List.of(
                "statements setup print",
                "statements setup",
                "relations relations",
                "problems check --rules rules.yaml",
                "problems check --scope harbour_id=7",
                "preview preview boat --key 17",
                "preview preview boat --key 14",
                "preview preview boat --key 99",
                "preview preview boat --key 17 --plus fee:id=708",
                "outcome delete boat --key 12 --plus fee:id=705 --yes",
                "preview preview boat --every-row --on-blocked skip",
                "preview preview fee --every-row --at-most 1",
                "outcome delete boat --key 14 --yes",
                "outcome delete boat --key 17 --yes --because sold",
                "outcome delete boat --key 12 --answer no",
                "outcome delete boat --key 12 --yes --fingerprint 00",
                "outcome delete boat --key 14 --soft --yes --rules rules.yaml",
                "preview preview skipper --key 2 --blank --rules rules.yaml",
                "outcome delete skipper --key 2 --blank --yes --rules rules.yaml",
                "preview preview skipper --key 3 --forget --data-to data.json --rules rules.yaml",
                "outcome delete skipper --key 3 --forget --yes --rules rules.yaml",
                "outcome delete yard --key 3 --yes --rules two.yaml",
                "waiting preview --waiting --by Tavi",
                "archive archive --rules rules.yaml",
                "holds archive hold boat --key 12 --because asked",
                "holds archive hold",
                "history history",
                "verification history verify",
                "seal history seal",
                "orphans orphans",
                "views setup views --rules rules.yaml",
                "proposals init --to first.yaml",
                "job delete power_reading --every-row --as-job --name all --answer power_reading",
                "jobs jobs",
                "rows preview boat --every-row --rows",
                "preview drop mooring --look",
                "preview drop radio_message --look",
                "outcome drop inspection --column result --answer inspection.result",
                "error delete baot --key 1",
                "error delete boat")) {
            String[] words = line.split(" ");
            List<String> command = new ArrayList<>(Arrays.asList(words).subList(1, words.length));
            command.addAll(List.of("--format", "json", "--db", "harbour.db"));
            String document = tool.run(command.toArray(String[]::new)).out();
            all.assertThat(schema(words[0]).validate(JSON.readTree(document)))
                    .as(line)
                    .isEmpty();
        }
        String entry = tool.run("history", "--most", "1", "--format", "jsonl", "--db", "harbour.db")
                .out();
        all.assertThat(schema("entry").validate(JSON.readTree(entry))).isEmpty();
        String forgotten = tool.run("history", "--kind", "forget", "--format", "jsonl", "--db", "harbour.db")
                .out();
        String certificate = tool.run(
                        "history",
                        "certificate",
                        JSON.readTree(forgotten).path("receipt").asText(),
                        "--format",
                        "json",
                        "--db",
                        "harbour.db")
                .out();
        all.assertThat(schema("certificate").validate(JSON.readTree(certificate)))
                .isEmpty();
        String data = Files.readString(folder.resolve("data.json"));
        all.assertThat(schema("person-data").validate(JSON.readTree(data))).isEmpty();
        String receipt = JSON.readTree(
                        tool.run("delete", "boat", "--key", "16", "--yes", "--format", "json", "--db", "harbour.db")
                                .out())
                .path("receipt")
                .asText();
        tool.run("archive", "compare", receipt, "--format", "jsonl", "--db", "harbour.db")
                .out()
                .lines()
                .forEach(line -> all.assertThatCode(
                                () -> assertThat(schema("comparison").validate(JSON.readTree(line)))
                                        .isEmpty())
                        .doesNotThrowAnyException());
        all.assertAll();
        // A schema that allows everything would say nothing.
        assertThat(schema("preview").validate(JSON.readTree("{\"version\": 1, \"state\": \"maybe\"}")))
                .isNotEmpty();
    }

    @Test
    void theSchemaOfTheRuleBookHasTheKeysThatAreRead() throws Exception {
        JsonNode schema = JSON.readTree(Files.readString(SCHEMAS.resolve("rule-book.schema.json")));
        for (Map.Entry<String, String> place : PLACES.entrySet()) {
            String told = RuleBookFile.reading("version: 1\n" + place.getKey(), "rules.yaml")
                    .problems()
                    .toString();
            Matcher known =
                    Pattern.compile("no key zzz\\. Known are ([^.]*)\\.").matcher(told);
            assertThat(known.find()).as(told).isTrue();
            TreeSet<String> keys = new TreeSet<>();
            schema.at(place.getValue()).path("properties").fieldNames().forEachRemaining(keys::add);
            assertThat(keys)
                    .as(place.getKey())
                    .containsExactlyInAnyOrder(known.group(1).split(", "));
        }
    }

    @Test
    void everyRuleBookOfTheDocumentsFitsTheSchema() throws Exception {
        List<String> books = new ArrayList<>(List.of(HarbourOffice.ruleBook()));
        try (var pages = Files.list(Path.of("../docs"))) {
            for (Path page :
                    pages.filter(file -> file.toString().endsWith(".md")).toList()) {
                Matcher block =
                        Pattern.compile("```yaml\n(.*?)```", Pattern.DOTALL).matcher(Files.readString(page));
                while (block.find()) {
                    if (block.group(1).matches("(?s)(version|tables|relations|deletions|questions|retention).*")) {
                        books.add(
                                block.group(1).startsWith("version")
                                        ? block.group(1)
                                        : "version: 1\n" + block.group(1));
                    }
                }
            }
        }
        assertThat(books).hasSizeGreaterThan(5);
        for (String book : books) {
            assertThat(schema("rule-book").validate(yaml(book))).as(book).isEmpty();
        }
    }

    /** What is wrong as it is written, whatever the database, is wrong by the schema. */
    @Test
    void theSchemaFindsMistypedKeys() throws Exception {
        String wrong = new String(
                SchemaTest.class.getResourceAsStream("wrong-rule-books.txt").readAllBytes(), StandardCharsets.UTF_8);
        List<String> books = wrong.lines()
                .filter(line -> line.contains("There is no key") || line.contains("There is no rule"))
                .map(line -> line.split(" ~ ")[0].replace("\\n", "\n"))
                .toList();
        assertThat(books).hasSizeGreaterThan(8);
        for (String book : books) {
            if (!book.contains("permit: [melt]")) {
                assertThat(schema("rule-book").validate(yaml(book))).as(book).isNotEmpty();
            }
        }
    }
}
