// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;

/** What there is to say of a command, as its help, its manual page and the reference say it. */
final class CommandText {

    private final String words;
    private final CommandSpec spec;

    /** @param words its name and those before it, without the tool's own */
    CommandText(String words, CommandLine command) {
        this.words = words;
        this.spec = command.getCommandSpec();
    }

    /** Every command and subcommand of the tool, in the order of the job. */
    static List<CommandText> all(CommandLine tool) {
        List<CommandText> all = new ArrayList<>();
        collect(tool, "", all);
        return all;
    }

    private static void collect(CommandLine of, String before, List<CommandText> all) {
        of.getSubcommands().forEach((name, command) -> {
            String words = (before + " " + name).strip();
            all.add(new CommandText(words, command));
            collect(command, words, all);
        });
    }

    String words() {
        return words;
    }

    String description() {
        return String.join(" ", spec.usageMessage().description());
    }

    /** Such as {@code vacancy restore [TABLE|RECEIPT] [OPTIONS]}. */
    String synopsis() {
        String arguments = spec.positionalParameters().stream()
                .map(each -> each.arity().min() == 0 ? "[" + each.paramLabel() + "]" : each.paramLabel())
                .collect(Collectors.joining(" "));
        return "vacancy " + words + (arguments.isEmpty() ? "" : " " + arguments) + " [OPTIONS]";
    }

    /** What is said of each argument that is no option. */
    Map<String, String> arguments() {
        Map<String, String> arguments = new LinkedHashMap<>();
        spec.positionalParameters()
                .forEach(each -> arguments.put(each.paramLabel(), String.join(" ", each.description())));
        return arguments;
    }

    /** Its options by the heading under which they stand. */
    Map<OptionGroup, List<OptionSpec>> options() {
        return grouped(spec.options());
    }

    static Map<OptionGroup, List<OptionSpec>> grouped(List<OptionSpec> options) {
        Map<OptionGroup, List<OptionSpec>> groups = new LinkedHashMap<>();
        for (OptionGroup group : OptionGroup.values()) {
            List<OptionSpec> own = new ArrayList<>(options.stream()
                    .filter(option -> !option.hidden() && OptionGroup.of(Set.of(option.names())) == group)
                    .toList());
            own.sort(Comparator.comparingInt(option -> group.options().indexOf(option.longestName())));
            if (!own.isEmpty()) {
                groups.put(group, own);
            }
        }
        return groups;
    }

    /** Such as {@code --key K}. */
    static String written(OptionSpec option) {
        return String.join(", ", option.names()) + (option.arity().max() == 0 ? "" : " " + option.paramLabel());
    }

    static String description(OptionSpec option) {
        return String.join(" ", option.description());
    }

    List<String> examples() {
        return CommandExamples.of(words);
    }

    /** Its subcommands, each by its words. */
    List<String> subcommands() {
        return spec.subcommands().keySet().stream()
                .map(name -> words + " " + name)
                .toList();
    }
}
