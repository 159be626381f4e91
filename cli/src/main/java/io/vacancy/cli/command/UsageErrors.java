// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.internal.argument.NearestName;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.MissingParameterException;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;

/** What is wrong with the words of a command, as a sentence. */
final class UsageErrors {

    private static final Set<Class<?>> WHOLE = Set.of(long.class, Long.class, int.class, Integer.class);
    private static final Set<Class<?>> DECIMAL = Set.of(double.class, Double.class);

    private UsageErrors() {}

    static String message(ParameterException failed) {
        CommandSpec command = failed.getCommandLine().getCommandSpec();
        ArgSpec argument = failed.getArgSpec();
        String value = failed.getValue();
        if (failed instanceof UnmatchedArgumentException unmatched) {
            return unmatched(command, unmatched.getUnmatched());
        }
        if (failed instanceof MissingParameterException missing) {
            String names = missing.getMissing().stream().map(UsageErrors::name).collect(Collectors.joining(" and "));
            // The same exception is thrown for an option that is not there at all.
            boolean bare = String.valueOf(failed.getMessage()).contains("parameter for option");
            return names + (bare ? " needs a value, and none is given." : " is not given.");
        }
        if (argument != null && value != null) {
            String wanted = wanted(argument);
            if (wanted != null) {
                return "\"" + value + "\" cannot be a value of " + name(argument) + ": " + wanted + ".";
            }
        }
        String message = String.valueOf(failed.getMessage());
        return message.endsWith(".") ? message : message + ".";
    }

    private static String unmatched(CommandSpec command, List<String> words) {
        String word = words.get(0);
        if (word.startsWith("-") && word.length() > 1) {
            Set<String> options = new TreeSet<>();
            command.options().forEach(option -> options.add(option.longestName()));
            return "There is no option " + word
                    + (word.startsWith("--") ? NearestName.question(word.replaceFirst("=.*", ""), options) : ".");
        }
        Set<String> commands = command.subcommands().keySet();
        if (!commands.isEmpty() && command.positionalParameters().isEmpty()) {
            return "There is no command " + command.qualifiedName() + " " + word + NearestName.question(word, commands);
        }
        return command.qualifiedName() + " takes no further word, and \"" + word + "\" is given"
                + (subcommand(command) == null ? "." : "; " + subcommand(command));
    }

    /** The subcommand that the first word of a command may have been meant for, as a question; or null. */
    static @Nullable String subcommand(CommandSpec command) {
        if (command.positionalParameters().isEmpty() || command.subcommands().isEmpty()) {
            return null;
        }
        Object first = command.positionalParameters().get(0).getValue();
        String near = first == null
                ? null
                : NearestName.of(first.toString(), command.subcommands().keySet());
        return near == null ? null : "did you mean " + command.qualifiedName() + " " + near + "?";
    }

    private static String name(ArgSpec argument) {
        return argument instanceof OptionSpec option ? option.longestName() : argument.paramLabel();
    }

    private static @Nullable String wanted(ArgSpec argument) {
        Class<?> type = argument.typeInfo().getType();
        if (WHOLE.contains(type)) {
            return "a whole number, such as 17";
        }
        if (DECIMAL.contains(type)) {
            return "a number, such as 2.5";
        }
        if (type.isEnum()) {
            return "one of "
                    + Arrays.stream(type.getEnumConstants())
                            .map(String::valueOf)
                            .collect(Collectors.joining(", "));
        }
        return null;
    }
}
