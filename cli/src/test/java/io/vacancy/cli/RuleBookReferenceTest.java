// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The reference of the rule book is written from its schema, which has the keys that are read. */
class RuleBookReferenceTest {

    private static final String BEGIN = """
            # Rule book reference

            Every key of the file, written from [its schema](schemas/rule-book.schema.json), which an editor takes for
            completion and checks: begin the file with `# yaml-language-server: $schema=rule-book.schema.json`. What the keys
            are for is in [the rule book](rule-book.md).
            """;

    private final StringBuilder text = new StringBuilder(BEGIN);
    private JsonNode schema;

    /** Written anew by {@code -Dvacancy.docs=write}. */
    @Test
    void saysEveryKey() throws Exception {
        schema = new ObjectMapper().readTree(Files.readString(Path.of("../docs/schemas/rule-book.schema.json")));
        part("At the top", schema);
        part("tables: TABLE:", schema.at("/properties/tables/additionalProperties"));
        part("marker:", schema.at("/$defs/marker"));
        part("marker: status:", schema.at("/$defs/marker/properties/status"));
        part("marker: versions:", schema.at("/$defs/marker/properties/versions"));
        part("audit-columns:", schema.at("/properties/tables/additionalProperties/properties/audit-columns"));
        part("retention:", schema.at("/$defs/retention/oneOf/2"));
        part("relations: RELATION:", schema.at("/properties/relations/additionalProperties/oneOf/1"));
        part("A rule", schema.at("/$defs/rule/oneOf/1"));
        part("Forget of a table", schema.at("/$defs/policy/oneOf/0/oneOf/1"));
        part("forget: until:", schema.at("/$defs/policy/oneOf/0/oneOf/1/properties/until"));
        part("questions:", schema.at("/properties/questions/items"));
        part("approvals:", schema.at("/properties/approvals/items"));
        part("deletions: NAME:", schema.at("/properties/deletions/additionalProperties"));
        Path reference = Path.of("../docs/rule-book-reference.md");
        if ("write".equals(System.getProperty("vacancy.docs"))) {
            Files.writeString(reference, text.toString());
        }
        assertThat(reference).hasContent(text.toString());
    }

    private void part(String heading, JsonNode node) {
        assertThat(node.path("properties")).as(heading).isNotEmpty();
        List<String> required = new ArrayList<>();
        node.path("required").forEach(each -> required.add(each.asText()));
        text.append("\n## ")
                .append(heading.matches("[A-Z].*") ? heading : "`" + heading + "`")
                .append("\n\n");
        text.append("| key | value | |\n|---|---|---|\n");
        node.path("properties").fields().forEachRemaining(each -> {
            JsonNode value = resolved(each.getValue());
            String description = (each.getValue().has("description") ? each.getValue() : value)
                    .path("description")
                    .asText();
            text.append("| `")
                    .append(each.getKey())
                    .append(required.contains(each.getKey()) ? "` (required)" : "`")
                    .append(" | ")
                    .append(kind(value))
                    .append(" | ")
                    .append(description.replace("|", "\\|"))
                    .append(" |\n");
        });
    }

    private JsonNode resolved(JsonNode value) {
        return value.has("$ref") ? schema.at(value.path("$ref").asText().substring(1)) : value;
    }

    private String kind(JsonNode given) {
        JsonNode value = resolved(given);
        if (value.has("const")) {
            return "`" + value.path("const").asText() + "`";
        }
        if (value.has("enum")) {
            List<String> words = new ArrayList<>();
            value.path("enum").forEach(each -> words.add("`" + each.asText() + "`"));
            return String.join(", ", words);
        }
        if (value.has("oneOf") && !value.has("properties")) {
            List<String> kinds = new ArrayList<>();
            value.path("oneOf").forEach(each -> kinds.add(kind(each)));
            return String.join(" or ", kinds.stream().distinct().toList());
        }
        JsonNode type = value.path("type");
        List<String> types = new ArrayList<>();
        (type.isArray() ? type : List.of(type)).forEach(each -> types.add(word(each.asText(), value)));
        return String.join(
                " or ",
                types.stream().filter(each -> !each.isEmpty()).distinct().toList());
    }

    private String word(String type, JsonNode value) {
        return switch (type) {
            case "string" -> "text";
            case "integer" -> "whole number";
            case "number" -> "number";
            case "boolean" -> "`true` or `false`";
            case "array" -> value.has("items") ? "list of " + kind(value.path("items")) : "list";
            case "object" -> "keys";
            case "null" -> value.path("type").isTextual() ? "nothing" : "";
            default -> type;
        };
    }
}
