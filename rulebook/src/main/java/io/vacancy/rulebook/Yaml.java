// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.SourceLocation;
import io.vacancy.internal.argument.NearestName;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.nodes.Tag;

/** A part of a YAML document that knows where it stands, so that every complaint can say so. */
final class Yaml {

    /** Of a document, in characters: that of a rule book of some thousand tables. */
    private static final int LONGEST = 2_000_000;

    private static final int MOST_PROBLEMS = 1_000;

    private final @Nullable Node node;
    private final SourceLocation place;

    /** What is wrong so far, of the whole document. */
    private final List<Problem> problems;

    private Yaml(@Nullable Node node, SourceLocation place, List<Problem> problems) {
        this.node = node;
        this.place = place;
        this.problems = problems;
    }

    /** What reading found to be wrong so far. */
    List<Problem> problems() {
        return List.copyOf(problems);
    }

    /** Reads a part; what is wrong with it is kept with the rest, and stands in nobody's way. */
    <T> T trying(Supplier<T> reading, T otherwise) {
        try {
            return reading.get();
        } catch (RuleBookException wrong) {
            keep(wrong);
            return otherwise;
        }
    }

    /** Once, however often its place is read; of very many the first are enough. */
    private void keep(RuleBookException wrong) {
        wrong.problems().stream()
                .filter(each -> problems.size() < MOST_PROBLEMS && !problems.contains(each))
                .forEach(problems::add);
    }

    /** Changes what was read so far by what stands behind a key, if there is something. */
    <T> T with(String key, T before, BiFunction<T, Yaml, T> more) {
        return trying(
                () -> {
                    Yaml value = get(key);
                    return value == null ? before : more.apply(before, value);
                },
                before);
    }

    /** A key and what stands behind it. */
    record Entry(String key, Yaml value, SourceLocation place) {}

    static Yaml parse(String text, String file) {
        try {
            LoadSettings settings = LoadSettings.builder()
                    .setLabel(file)
                    .setMaxAliasesForCollections(10)
                    .setCodePointLimit(LONGEST)
                    .build();
            Node root = new Compose(settings).composeString(text).orElse(null);
            return new Yaml(root, new SourceLocation(file, 1), new ArrayList<>());
        } catch (MarkedYamlEngineException wrong) {
            int line = wrong.getProblemMark().map(mark -> mark.getLine() + 1).orElse(1);
            throw notYaml(new SourceLocation(file, line), wrong.getProblem());
        } catch (StackOverflowError tooDeep) {
            throw notYaml(new SourceLocation(file, 1), "it is nested too deep");
        } catch (YamlEngineException wrong) {
            throw notYaml(new SourceLocation(file, 1), String.valueOf(wrong.getMessage()));
        }
    }

    private static RuleBookException notYaml(SourceLocation place, String why) {
        return new RuleBookException(List.of(new Problem(true, "This is not YAML: " + why + ".", place)));
    }

    private SourceLocation placeOf(Node part) {
        return new SourceLocation(
                place.file(),
                part.getStartMark().map(mark -> mark.getLine() + 1).orElse(place.line()));
    }

    private Yaml part(Node part) {
        return new Yaml(part, placeOf(part), problems);
    }

    boolean empty() {
        return node == null
                || (node instanceof ScalarNode scalar && scalar.getTag().equals(Tag.NULL));
    }

    boolean isMapping() {
        return node instanceof MappingNode;
    }

    boolean isText() {
        return node instanceof ScalarNode && !empty();
    }

    String text() {
        if (node instanceof ScalarNode scalar && !empty()) {
            return scalar.getValue();
        }
        throw wrong("Here a text is wanted.", null);
    }

    /** What the text means, told with where it stands if that goes wrong. */
    <T> T as(Function<String, T> reader) {
        try {
            return reader.apply(isText() ? text() : "");
        } catch (MisuseException wrong) {
            throw wrong(String.valueOf(wrong.getMessage()), wrong.hint());
        }
    }

    boolean truth() {
        if (node instanceof ScalarNode scalar && scalar.getTag().equals(Tag.BOOL)) {
            return Boolean.parseBoolean(scalar.getValue());
        }
        throw wrong("Here true or false is wanted.", null);
    }

    BigDecimal number() {
        try {
            return new BigDecimal(text());
        } catch (NumberFormatException none) {
            throw wrong("\"" + text() + "\" is not a number.", null);
        }
    }

    long whole() {
        try {
            return number().longValueExact();
        } catch (ArithmeticException none) {
            throw wrong("\"" + text() + "\" is no whole number.", null);
        }
    }

    SourceLocation place() {
        return place;
    }

    /** The items of a list; one thing alone counts as a list of one. */
    List<Yaml> items() {
        if (node instanceof SequenceNode sequence) {
            return sequence.getValue().stream().map(this::part).toList();
        }
        return empty() ? List.of() : List.of(this);
    }

    /** Keys and values in the order in which they are written. */
    List<Entry> entries() {
        if (empty()) {
            return List.of();
        }
        if (!(node instanceof MappingNode mapping)) {
            throw wrong("Here keys with values are wanted.", null);
        }
        List<Entry> entries = new ArrayList<>();
        Set<String> names = new HashSet<>();
        for (NodeTuple tuple : mapping.getValue()) {
            Yaml key = part(tuple.getKeyNode());
            String name = key.text();
            if (!names.add(name)) {
                throw key.wrong("\"" + name + "\" stands here twice.", null);
            }
            entries.add(new Entry(name, part(tuple.getValueNode()), key.place));
        }
        return entries;
    }

    /** The entries below a key, none if it is not there. */
    List<Entry> entries(String key) {
        Yaml value = get(key);
        return value == null ? List.of() : value.entries();
    }

    List<String> keys() {
        return entries().stream().map(Entry::key).toList();
    }

    @Nullable
    Yaml get(String key) {
        return entries().stream()
                .filter(entry -> entry.key().equals(key))
                .map(Entry::value)
                .findFirst()
                .orElse(null);
    }

    void onlyKeys(List<String> known) {
        for (Entry entry : entries()) {
            if (!known.contains(entry.key())) {
                keep(new Yaml(node, entry.place(), problems).unknown("key", entry.key(), known));
            }
        }
    }

    RuleBookException unknown(String what, String word, List<String> known) {
        return wrong(
                "There is no " + what + " " + word + NearestName.question(word, known),
                "Known are " + String.join(", ", known) + ".");
    }

    RuleBookException wrong(String message, @Nullable String hint) {
        return new RuleBookException(List.of(new Problem(true, message + (hint == null ? "" : " " + hint), place)));
    }
}
