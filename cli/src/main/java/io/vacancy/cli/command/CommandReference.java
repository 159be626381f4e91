// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import java.util.List;
import java.util.Locale;
import picocli.CommandLine.Model.OptionSpec;

/** All commands in one document of Markdown, as docs/commands.md has it. */
public final class CommandReference {

    private CommandReference() {}

    /** The whole document. */
    public static String markdown(Screen screen) {
        List<CommandText> commands = CommandText.all(VacancyCommand.described(screen));
        StringBuilder text = new StringBuilder("# Commands\n\n");
        text.append("Written from the tool itself; `vacancy help COMMAND` and the manual pages say the same.\n\n");
        text.append("| command | |\n|---|---|\n");
        commands.forEach(each -> text.append("| [`vacancy ")
                .append(each.words())
                .append("`](#vacancy-")
                .append(each.words().replace(' ', '-'))
                .append(") | ")
                .append(cell(each.description()))
                .append(" |\n"));
        text.append("\n## Exit codes\n\n| code | |\n|---|---|\n");
        ExitCode.meanings().forEach((code, meaning) -> text.append("| ")
                .append(code)
                .append(" | ")
                .append(meaning)
                .append(" |\n"));
        text.append("\n## Settings\n\n`")
                .append(SettingsFile.NAME)
                .append("`: ")
                .append(SettingsFile.DESCRIPTION)
                .append(" What is said on the command line goes before the environment, and that before the file.\n")
                .append("\n```properties\n")
                .append(SettingsFile.EXAMPLE)
                .append("```\n");
        text.append("\n## Which database\n\nEvery command that opens a database takes these.\n");
        commands.stream()
                .filter(each -> each.words().equals("delete"))
                .forEach(each -> options(
                        OptionGroup.DATABASE, each.options().getOrDefault(OptionGroup.DATABASE, List.of()), text));
        commands.forEach(each -> command(each, text));
        return text.toString();
    }

    private static void command(CommandText command, StringBuilder text) {
        text.append("\n## vacancy ").append(command.words()).append("\n\n");
        text.append(command.description())
                .append("\n\n    ")
                .append(command.synopsis())
                .append('\n');
        if (!command.arguments().isEmpty()) {
            text.append("\n| argument | |\n|---|---|\n");
            command.arguments().forEach((name, description) -> text.append("| `")
                    .append(cell(name))
                    .append("` | ")
                    .append(cell(description))
                    .append(" |\n"));
        }
        command.options().forEach((group, options) -> {
            if (group == OptionGroup.DATABASE) {
                text.append("\nAnd [which database](#which-database).\n");
            } else if (group != OptionGroup.HELP) {
                options(group, options, text);
            }
        });
        text.append("\n```\n");
        command.examples().forEach(example -> text.append(example).append('\n'));
        text.append("```\n");
    }

    private static void options(OptionGroup group, List<OptionSpec> options, StringBuilder text) {
        text.append("\n| ").append(group.heading().toLowerCase(Locale.ROOT)).append(" | |\n|---|---|\n");
        options.forEach(option -> text.append("| `")
                .append(cell(CommandText.written(option)))
                .append("` | ")
                .append(cell(CommandText.description(option)))
                .append(" |\n"));
    }

    private static String cell(String text) {
        return text.replace("|", "\\|");
    }
}
