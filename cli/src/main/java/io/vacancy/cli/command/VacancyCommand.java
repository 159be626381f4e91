// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.failure.VacancyException;
import io.vacancy.json.JsonWriter;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;

/** The tool itself: its commands, and one way of telling every error. */
@Command(
        name = "vacancy",
        description = "Deletes records on purpose: shown first, asked for, carried out whole, and told afterwards.",
        synopsisSubcommandLabel = "COMMAND",
        mixinStandardHelpOptions = true,
        versionProvider = ToolVersion.class)
public final class VacancyCommand implements Runnable {

    /** Longer lines are hard to read. */
    private static final int WIDEST_HELP = 100;

    private final Screen screen;

    private VacancyCommand(Screen screen) {
        this.screen = screen;
    }

    /** Without a command: what there is, in the order of the job. */
    @Override
    public void run() {
        commands(screen, "").usage(screen.out());
    }

    /** Runs the command that the words name, with the settings of the user of this machine. Returns the exit code. */
    public static int runAsUser(Screen screen, String... words) {
        return run(screen, SettingsFile.ofUser(), words);
    }

    /** The same without any settings. */
    public static int run(Screen screen, String... words) {
        return run(screen, (Path) null, words);
    }

    /** The same with the settings of a file, if it is there. */
    public static int run(Screen screen, @Nullable Path settings, String... words) {
        String[] meant = meant(screen, words);
        CommandLine commands = commands(screen, meant.length == 0 ? "" : meant[0]);
        try {
            commands.setDefaultValueProvider(SettingsFile.read(settings));
        } catch (MisuseException wrong) {
            return failed(screen, wrong, commands, Arrays.asList(words));
        }
        return commands.execute(meant);
    }

    /** {@code help COMMAND} is the command's own help. */
    private static String[] meant(Screen screen, String... words) {
        if (words.length == 0 || !words[0].equals("help")) {
            return words;
        }
        List<String> meant = new ArrayList<>(Arrays.asList(words).subList(1, words.length));
        // A word that is no command would be passed over for the help of the tool.
        boolean known = meant.isEmpty()
                || all(screen).stream().anyMatch(each -> each.described().name().equals(meant.get(0)));
        if (known) {
            meant.add("--help");
        }
        return meant.toArray(String[]::new);
    }

    /** All commands with all their options, for whoever describes them. */
    public static CommandLine described(Screen screen) {
        CommandLine all = new CommandLine(new VacancyCommand(screen));
        all(screen).forEach(each -> all.addSubcommand(each.making().get()));
        helped(all, "");
        return all;
    }

    /** A command: its class, which says its name and what it does, and how it is made with all its options. */
    private record Listed(Class<?> type, Supplier<CommandLine> making) {

        Command described() {
            return Objects.requireNonNull(type.getAnnotation(Command.class));
        }
    }

    private static List<Listed> all(Screen screen) {
        return List.of(
                new Listed(
                        DemoCommand.class, () -> new CommandLine(new DemoCommand(screen, words -> run(screen, words)))),
                new Listed(InitCommand.class, () -> new CommandLine(new InitCommand(screen))),
                new Listed(SetupCommand.class, () -> new CommandLine(new SetupCommand(screen))
                        .addSubcommand(new SetupPrintCommand(screen))
                        .addSubcommand(new SetupViewsCommand(screen))
                        .addSubcommand(new SetupTriggersCommand(screen))
                        .addSubcommand(new SetupCompletionCommand(screen))
                        .addSubcommand(new SetupManualCommand(screen))),
                new Listed(RelationsCommand.class, () -> new CommandLine(new RelationsCommand(screen))),
                new Listed(CheckCommand.class, () -> new CommandLine(new CheckCommand(screen))),
                new Listed(PreviewCommand.class, () -> new CommandLine(new PreviewCommand(screen))),
                new Listed(DeleteCommand.class, () -> new CommandLine(new DeleteCommand(screen))),
                new Listed(ReplaceCommand.class, () -> new CommandLine(new ReplaceCommand(screen))),
                new Listed(RestoreCommand.class, () -> new CommandLine(new RestoreCommand(screen))),
                new Listed(ArchiveCommand.class, () -> new CommandLine(new ArchiveCommand(screen))
                        .addSubcommand(new ArchiveCompareCommand(screen))
                        .addSubcommand(new ArchiveDefinitionCommand(screen))
                        .addSubcommand(new ArchiveHoldCommand(screen))
                        .addSubcommand(new ArchiveReleaseCommand(screen))),
                new Listed(PurgeCommand.class, () -> new CommandLine(new PurgeCommand(screen))),
                new Listed(HistoryCommand.class, () -> new CommandLine(new HistoryCommand(screen))
                        .addSubcommand(new HistoryCertificateCommand(screen))
                        .addSubcommand(new HistoryVerifyCommand(screen))
                        .addSubcommand(new HistorySealCommand(screen))
                        .addSubcommand(new HistoryEventsCommand(screen))),
                new Listed(JobsCommand.class, () -> new CommandLine(new JobsCommand(screen))
                        .addSubcommand(new JobsStartCommand(screen))
                        .addSubcommand(new JobsShowCommand(screen))
                        .addSubcommand(new JobsWatchCommand(screen))
                        .addSubcommand(new JobsPauseCommand(screen))
                        .addSubcommand(new JobsResumeCommand(screen))
                        .addSubcommand(new JobsCancelCommand(screen))
                        .addSubcommand(new JobsRunCommand(screen))),
                new Listed(OrphansCommand.class, () -> new CommandLine(new OrphansCommand(screen))),
                new Listed(DropCommand.class, () -> new CommandLine(new DropCommand(screen))));
    }

    /** Of the commands that are not named only what a list of them says: making all of them takes longer than most do. */
    private static CommandLine commands(Screen screen, String named) {
        CommandLine commands = new CommandLine(new VacancyCommand(screen));
        for (Listed each : all(screen)) {
            Command described = each.described();
            if (described.name().equals(named)) {
                commands.addSubcommand(each.making().get());
            } else {
                CommandSpec listed = CommandSpec.create().name(described.name());
                listed.usageMessage().description(described.description());
                commands.addSubcommand(new CommandLine(listed));
            }
        }
        helped(commands, "");
        String codes = ExitCode.meanings().entrySet().stream()
                .map(each -> each.getKey() + " " + each.getValue())
                .collect(Collectors.joining(", ", "Exit codes: ", "."));
        commands.getCommandSpec().usageMessage().footer("", codes, "", "vacancy help COMMAND tells more of one.");
        // A word that begins with @ names a deletion, not a file of words.
        commands.setExpandAtFiles(false);
        commands.setUsageHelpWidth(Math.min(screen.layout().width(), WIDEST_HELP));
        commands.setOut(new PrintWriter(screen.out(), true, StandardCharsets.UTF_8));
        commands.setErr(new PrintWriter(screen.err(), true, StandardCharsets.UTF_8));
        commands.setColorScheme(CommandLine.Help.defaultColorScheme(
                screen.terminal() ? CommandLine.Help.Ansi.AUTO : CommandLine.Help.Ansi.OFF));
        commands.setParameterExceptionHandler((failed, words) -> wrongUsage(screen, failed, words));
        commands.setExecutionExceptionHandler(
                (failed, command, parsed) -> failed(screen, failed, command, parsed.originalArgs()));
        return commands;
    }

    private static void helped(CommandLine commands, String before) {
        for (CommandLine command : commands.getSubcommands().values()) {
            command.getCommandSpec()
                    .mixinStandardHelpOptions(true)
                    .versionProvider(new ToolVersion())
                    .usageMessage()
                    .abbreviateSynopsis(true);
            String words = (before + " " + command.getCommandName()).strip();
            GroupedHelp.on(command, words);
            helped(command, words);
        }
    }

    private static int wrongUsage(Screen screen, ParameterException failed, String[] words) {
        String hint = "See " + failed.getCommandLine().getCommandSpec().qualifiedName() + " --help.";
        tell(screen, "misuse", UsageErrors.message(failed), hint, Arrays.asList(words));
        return ExitCode.WRONG_USAGE;
    }

    private static int failed(Screen screen, Exception failed, CommandLine command, List<String> words) {
        if (failed instanceof VacancyException known) {
            String hint = known instanceof NotSetUpException ? "Run `vacancy setup` once." : known.hint();
            if (hint == null && known instanceof MisuseException) {
                String meant = UsageErrors.subcommand(command.getCommandSpec());
                hint = meant == null ? null : meant.replaceFirst("did", "Did");
            }
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
