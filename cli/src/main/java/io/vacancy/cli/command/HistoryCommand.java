// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.History;
import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.command.OutputOptions.Format;
import io.vacancy.cli.screen.HistoryListScreen;
import io.vacancy.cli.screen.HistoryScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonWriter;
import io.vacancy.schema.Row;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
        name = "history",
        description =
                "Lists who deleted what, when and why, newest first; with a table and a key, what happened to that"
                        + " row, with what it held.")
final class HistoryCommand implements Callable<Integer> {

    private static final int USUALLY = 20;

    private final Screen screen;

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec command;

    @Parameters(index = "0", arity = "0..1", paramLabel = "TABLE", description = "Only what touched this table.")
    private @Nullable String table;

    @Option(names = "--key", paramLabel = "K", description = "Only what touched the row with this key.")
    private @Nullable String key;

    @Option(names = "--who", paramLabel = "NAME", description = "Only what this one did.")
    private @Nullable String who;

    @Option(names = "--receipt", paramLabel = "ID", description = "Only what was done under this receipt, or to it.")
    private @Nullable String receipt;

    @Option(
            names = "--kind",
            paramLabel = "KIND",
            description =
                    "Only erase, soft-delete, restore, replace, merge, blank, forget, purge, truncate, drop, unlink-orphans, destroy-key, hold or release.")
    private @Nullable String kind;

    @Option(
            names = "--ending",
            paramLabel = "ENDING",
            description = "Only what was done, blocked, refused or declined.")
    private @Nullable String ending;

    @Option(names = "--since", paramLabel = "TIME", description = "Only since then: a date or a time.")
    private @Nullable String since;

    @Option(names = "--before", paramLabel = "TIME", description = "Only before then.")
    private @Nullable String before;

    @Option(names = "--most", paramLabel = "N", description = "At most so many entries; 20 as text, else all.")
    private @Nullable Integer most;

    @Option(names = "--after", paramLabel = "ENTRY", description = "Only what comes after this entry: older ones.")
    private @Nullable String after;

    @Option(
            names = "--details",
            description =
                    "All that is known of each entry; without it a line each, unless one row or receipt is meant.")
    private boolean details;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final ListOptions output = new ListOptions();

    HistoryCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        if (key != null && table == null) {
            throw new MisuseException("A key is given, and no table.", "Write vacancy history TABLE --key K.");
        }
        Vacancy vacancy = database.open(screen);
        History history = narrowed(vacancy.history());
        return output.ofRows() == Format.text ? text(vacancy, history) : listed(history);
    }

    private History narrowed(History all) {
        History history = all;
        if (table != null) {
            history = key == null ? history.of(table) : history.of(table, key);
        }
        history = who == null ? history : history.by(who);
        history = receipt == null ? history : history.receipt(ReceiptId.of(receipt));
        history = kind == null ? history : history.kind(word("--kind", kind, Kind.values(), Kind::word));
        history = ending == null ? history : history.ending(word("--ending", ending, Ending.values(), Ending::word));
        history = since == null ? history : history.since(ArchiveCommand.time(since));
        history = before == null ? history : history.before(ArchiveCommand.time(before));
        return after == null ? history : history.after(after);
    }

    private static <E> E word(String option, String given, E[] known, Function<E, String> word) {
        return Arrays.stream(known)
                .filter(each -> word.apply(each).equals(given))
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        option + " " + given + " is unknown.",
                        "Write one of " + Arrays.stream(known).map(word).collect(Collectors.joining(", ")) + "."));
    }

    private int text(Vacancy vacancy, History history) {
        History.Page page = screen.working(() -> history.page(most == null ? USUALLY : most));
        if (page.entries().isEmpty()) {
            screen.print("No matching entries in the audit history.");
            return ExitCode.NOTHING;
        }
        String of = table;
        String row = key;
        String title = of == null ? "What was done" : "What happened to " + (row == null ? of : of + " " + row);
        boolean whole = details || row != null || receipt != null;
        List<String> lines = whole
                ? new HistoryScreen(output.layout(screen)).lines(title, page, entry -> image(vacancy, entry))
                : new HistoryListScreen(output.layout(screen)).lines(title, page);
        lines.forEach(screen::print);
        if (page.next() != null) {
            screen.next("There is more:", again("--after", page.next()));
        } else if (!whole) {
            screen.next("To see all that is known of each:", again("--details", null));
        }
        return ExitCode.DONE;
    }

    private String again(String option, @Nullable String value) {
        return NextStep.again(command.commandLine().getParseResult().originalArgs(), option, value);
    }

    /** What the row that was asked for held when it went by an entry; null where that is not kept, or none is asked for. */
    private @Nullable Row image(Vacancy vacancy, TrailEntry entry) {
        return table == null || key == null || entry.receipt() == null
                ? null
                : vacancy.image(entry.receipt(), table, key).orElse(null);
    }

    private int listed(History history) {
        ListedItem<TrailEntry> item = new ListedItem<>(
                "entries", JsonWriter::entry, HistoryScreen.COLUMNS, entry -> List.of(HistoryScreen.row(entry)));
        try (Stream<TrailEntry> entries = history.open()) {
            long listed =
                    new RowList(screen, output, database).write(most == null ? entries : entries.limit(most), item);
            return listed == 0 ? ExitCode.NOTHING : ExitCode.DONE;
        }
    }
}
