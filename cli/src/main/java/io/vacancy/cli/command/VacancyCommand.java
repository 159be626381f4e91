// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.failure.VacancyException;
import io.vacancy.json.JsonWriter;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;

/** The tool itself: its commands, and one way of telling every error. */
@Command(
        name = "vacancy",
        description = "Deletes records on purpose: shown first, asked for, carried out whole, and told afterwards.",
        synopsisSubcommandLabel = "COMMAND",
        mixinStandardHelpOptions = true,
        version = "vacancy 0.1.0",
        footer = {
            "",
            "Exit codes: 0 done, 1 failed, 2 wrong usage, 3 nothing selected, 4 blocked, 5 declined,",
            "6 changed since the preview, 7 busy, 8 refused, 9 a check found something wrong, 10 in doubt."
        })
public final class VacancyCommand implements Runnable {

    private final Screen screen;

    private VacancyCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public void run() {
        CommandLine.usage(this, screen.out());
    }

    /** Runs the command that the words name. Returns the exit code. */
    public static int run(Screen screen, String... words) {
        return commands(screen).execute(words);
    }

    private static CommandLine commands(Screen screen) {
        CommandLine commands = new CommandLine(new VacancyCommand(screen));
        commands.addSubcommand(new DemoCommand(screen, commands));
        commands.addSubcommand(new CommandLine(new SetupCommand(screen))
                .addSubcommand(new SetupPrintCommand(screen))
                .addSubcommand(new SetupViewsCommand(screen))
                .addSubcommand(new SetupTriggersCommand(screen)));
        commands.addSubcommand(new RelationsCommand(screen));
        commands.addSubcommand(new CheckCommand(screen));
        commands.addSubcommand(new PreviewCommand(screen));
        commands.addSubcommand(new DeleteCommand(screen));
        commands.addSubcommand(new ReplaceCommand(screen));
        commands.addSubcommand(new RestoreCommand(screen));
        commands.addSubcommand(new CommandLine(new ArchiveCommand(screen))
                .addSubcommand(new ArchiveHoldCommand(screen))
                .addSubcommand(new ArchiveReleaseCommand(screen)));
        commands.addSubcommand(new PurgeCommand(screen));
        commands.addSubcommand(new CommandLine(new HistoryCommand(screen))
                .addSubcommand(new HistoryVerifyCommand(screen))
                .addSubcommand(new HistorySealCommand(screen))
                .addSubcommand(new HistoryEventsCommand(screen)));
        commands.addSubcommand(new OrphansCommand(screen));
        helped(commands);
        // A word that begins with @ names a deletion, not a file of words.
        commands.setExpandAtFiles(false);
        commands.setOut(new PrintWriter(screen.out(), true, StandardCharsets.UTF_8));
        commands.setErr(new PrintWriter(screen.err(), true, StandardCharsets.UTF_8));
        commands.setColorScheme(CommandLine.Help.defaultColorScheme(
                screen.terminal() ? CommandLine.Help.Ansi.AUTO : CommandLine.Help.Ansi.OFF));
        commands.setParameterExceptionHandler((failed, words) -> wrongUsage(screen, failed, words));
        commands.setExecutionExceptionHandler(
                (failed, command, parsed) -> failed(screen, failed, parsed.originalArgs()));
        return commands;
    }

    private static void helped(CommandLine commands) {
        for (CommandLine command : commands.getSubcommands().values()) {
            command.getCommandSpec()
                    .mixinStandardHelpOptions(true)
                    .usageMessage()
                    .abbreviateSynopsis(true);
            helped(command);
        }
    }

    private static int wrongUsage(Screen screen, ParameterException failed, String[] words) {
        String message = String.valueOf(failed.getMessage());
        String hint = "See " + failed.getCommandLine().getCommandSpec().qualifiedName() + " --help.";
        if (failed instanceof UnmatchedArgumentException unmatched
                && !unmatched.getSuggestions().isEmpty()) {
            hint = "Did you mean " + unmatched.getSuggestions().get(0) + "? " + hint;
        }
        tell(screen, "misuse", message.endsWith(".") ? message : message + ".", hint, Arrays.asList(words));
        return ExitCode.WRONG_USAGE;
    }

    private static int failed(Screen screen, Exception failed, List<String> words) {
        if (failed instanceof VacancyException known) {
            String hint = known instanceof NotSetUpException ? "Run `vacancy setup` once." : known.hint();
            tell(screen, known.kind(), String.valueOf(known.getMessage()), hint, words);
            return ExitCode.of(known);
        }
        if (failed instanceof UncheckedIOException io) {
            tell(screen, "io", "A file could not be read or written: " + io.getMessage() + ".", null, words);
            return ExitCode.FAILED;
        }
        String message = "Vacancy itself failed: " + failed.getClass().getSimpleName() + ": " + failed.getMessage();
        tell(screen, "internal", message, "This is a mistake in the tool. See the history for what was done.", words);
        return ExitCode.FAILED;
    }

    private static void tell(Screen screen, String kind, String message, @Nullable String hint, List<String> words) {
        if (wantsJson(words)) {
            screen.printAll(new JsonWriter().error(kind, message, hint));
        } else {
            screen.tell(message + (hint == null ? "" : "\n" + hint));
        }
    }

    /** Asked of the words themselves, since an error may come before they are understood. */
    private static boolean wantsJson(List<String> words) {
        String line = " " + String.join(" ", words).toLowerCase(Locale.ROOT) + " ";
        return line.contains(" --format json ") || line.contains(" --format=json ");
    }
}
