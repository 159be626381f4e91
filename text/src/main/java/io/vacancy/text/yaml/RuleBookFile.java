package io.vacancy.text.yaml;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.request.Mode;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.rules.RuleBook.TableEntry;
import io.vacancy.text.sql.SearchCondition;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Reads a rule book from YAML (1.2), {@code version: 1}. */
public final class RuleBookFile {

    private static final List<String> PARTS = List.of("version", "tables", "relations");
    private static final List<String> TABLE_KEYS = List.of("label", "mode", "never-deleted");
    private static final List<String> FATES = List.of("cascade", "block", "set-null", "leave");

    private RuleBookFile() {}

    /**
     * Reads a file.
     *
     * @throws RuleBookException if it cannot be read or is not a rule book, with file and line
     */
    public static RuleBook read(Path file) {
        try {
            return read(
                    Files.readString(file, StandardCharsets.UTF_8),
                    file.getFileName().toString());
        } catch (IOException failed) {
            throw new RuleBookException(
                    "The rule book " + file + " cannot be read: " + failed.getMessage() + ".", null);
        }
    }

    /**
     * Reads text.
     *
     * @param name what it is called in messages, such as the file's name
     * @throws RuleBookException if it is not a rule book, with the line
     */
    public static RuleBook read(String text, String name) {
        Yaml root = Yaml.parse(text, name);
        root.onlyKeys(PARTS);
        Yaml version = root.get("version");
        if (version == null || !version.text().equals("1")) {
            throw (version == null ? root : version)
                    .wrong("The rule book says no version that is known.", "Its first line is \"version: 1\".");
        }
        List<TableEntry> tables = new ArrayList<>();
        List<RelationEntry> relations = new ArrayList<>();
        root.entries("tables").forEach(entry -> tables.add(table(entry)));
        root.entries("relations").forEach(entry -> relations.add(relation(entry)));
        return new RuleBook(tables, relations);
    }

    private static TableEntry table(Yaml.Entry written) {
        Yaml keys = written.value();
        keys.onlyKeys(TABLE_KEYS);
        TableEntry entry = TableEntry.of(written.key()).at(written.place());
        Yaml label = keys.get("label");
        if (label != null) {
            entry = entry.label(label.text());
        }
        Yaml mode = keys.get("mode");
        if (mode != null) {
            entry = entry.mode(mode(mode));
        }
        Yaml never = keys.get("never-deleted");
        return never != null && never.truth() ? entry.neverDeleted() : entry;
    }

    private static Mode mode(Yaml written) {
        for (Mode mode : Mode.values()) {
            if (mode.word().equals(written.text())) {
                return mode;
            }
        }
        throw written.wrong("\"" + written.text() + "\" is no mode.", "A mode is erase or soft-delete.");
    }

    private static RelationEntry relation(Yaml.Entry written) {
        List<Rule> rules =
                written.value().items().stream().map(RuleBookFile::rule).toList();
        return new RelationEntry(written.key(), rules, written.place());
    }

    /** {@code cascade}, or {@code {block: "unpaid", when: "paid IS NOT TRUE"}}. */
    private static Rule rule(Yaml written) {
        if (written.isText()) {
            return fate(written, written.text(), null);
        }
        List<String> keys = written.keys();
        List<String> fates = keys.stream().filter(key -> !key.equals("when")).toList();
        if (fates.size() != 1) {
            throw written.wrong(
                    "A rule says one of " + String.join(", ", FATES) + ", and this says "
                            + (fates.isEmpty() ? "none." : String.join(" and ", fates) + "."),
                    null);
        }
        Rule rule = fate(written, fates.get(0), written.get(fates.get(0)));
        Yaml when = written.get("when");
        if (when == null) {
            return rule;
        }
        try {
            return new Rule(rule.fate(), SearchCondition.read(when.text()));
        } catch (MisuseException wrong) {
            throw when.wrong(String.valueOf(wrong.getMessage()), wrong.hint());
        }
    }

    private static Rule fate(Yaml written, String word, @Nullable Yaml value) {
        return switch (word) {
            case "cascade" -> Rule.cascade();
            case "leave" -> Rule.leave();
            case "block" -> {
                if (value == null || !value.isText() || value.text().isBlank()) {
                    throw written.wrong(
                            "block wants a reason for the person who is told.", "Write {block: \"reason\"}.");
                }
                yield Rule.block(value.text());
            }
            case "set-null" ->
                value == null
                        ? Rule.setNull()
                        : Rule.setNull(value.items().stream().map(Yaml::text).toArray(String[]::new));
            default -> throw written.unknown("rule", word, FATES);
        };
    }
}
