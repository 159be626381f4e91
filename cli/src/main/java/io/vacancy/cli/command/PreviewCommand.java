// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.rows.PersonDataFile;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.cli.screen.WaitingScreen;
import io.vacancy.diagram.PreviewDiagram;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Preview;
import io.vacancy.preview.SkippedRow;
import io.vacancy.question.OpenQuestion;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(name = "preview", description = "Shows what deleting rows would do; changes nothing.")
final class PreviewCommand implements Callable<Integer> {

    private final Screen screen;

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec command;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final ModeOptions mode = new ModeOptions();

    @Mixin
    private final MergeOptions merge = new MergeOptions();

    @Mixin
    private final PlusOptions plus = new PlusOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final ActorOptions who = new ActorOptions();

    @Mixin
    private final ListOptions output = new ListOptions();

    @Option(
            names = "--waiting",
            description = "In the place of a table: list what others have asked for, which waits for your approval.")
    private boolean waiting;

    @Option(names = "--rows", description = "List every selected row.")
    private boolean rows;

    @Option(
            names = "--rows-of",
            paramLabel = "TABLE",
            description = "List every row of this table that would be deleted with the selected ones.")
    private @Nullable String rowsOf;

    @Option(
            names = "--data-to",
            paramLabel = "PATH",
            description =
                    "With --forget: write everything that belongs to the person to a new file, JSON if its name ends in"
                            + " .json, a page if in .html; else to a new folder, a CSV file a table.")
    private @Nullable Path dataTo;

    @Option(names = "--missing", description = "List every key that was given and is not there.")
    private boolean missing;

    @Option(
            names = "--skipped",
            description = "List every selected row that --on-blocked skip would leave out, with the reason.")
    private boolean skipped;

    /** A list that is asked for in the place of the preview. */
    private record Listing(String what, List<String> columns, Supplier<Stream<Row>> rows) {}

    @Mixin
    private final DiagramFile diagram = new DiagramFile();

    PreviewCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        if (waiting) {
            return listWaiting();
        }
        selection.check(mode);
        plus.check(selection, mode, merge);
        merge.check(mode);
        diagram.check();
        PersonDataFile data = dataTo == null ? null : personData(dataTo);
        long lists = Stream.of(rows, rowsOf != null, missing, skipped)
                .filter(asked -> asked)
                .count();
        if (lists > 1) {
            throw new MisuseException(
                    "Several lists are asked for.", "Ask for one of --rows, --rows-of, --missing and --skipped.");
        }
        if (data != null && lists > 0) {
            throw new MisuseException(
                    "--data-to writes a file beside the preview, and a list is asked for in its place.",
                    "Leave one of them out.");
        }
        boolean json = lists == 0 && output.json();
        Vacancy vacancy = database.open(who, screen);
        if (!selection.completed(vacancy, screen)) {
            return ExitCode.DECLINED;
        }
        Request request =
                merge.given() ? selection.request(merge, mode) : plus.in(selection.request(vacancy, mode), mode);
        if (lists > 0) {
            return list(listing(vacancy, request));
        }
        Preview preview = screen.working(() -> vacancy.preview(request));
        if (data != null && preview.state() != Preview.State.NOTHING) {
            write(data, vacancy, request, preview);
        }
        diagram.write(PreviewDiagram.of(preview, vacancy.rules().with(request.rules(), preview.operation())), screen);
        if (json) {
            screen.printAll(database.json().write(preview));
        } else {
            new PreviewScreen(vacancy, output.layout(screen)).lines(preview).forEach(screen::print);
            List<String> given = command.commandLine().getParseResult().originalArgs();
            String next = preview.state() == Preview.State.READY ? NextStep.delete(given, preview.fingerprint()) : null;
            String unblocking = NextStep.unblocking(given, preview, vacancy.schema());
            if (next != null) {
                screen.next("To do just that:", next);
            } else if (unblocking != null) {
                screen.next(
                        merge.given()
                                ? "To see what it would do if rows that would collide were deleted:"
                                : "To see what it would do with the first of these rules:",
                        unblocking);
            }
        }
        return ExitCode.of(preview);
    }

    private PersonDataFile personData(Path path) {
        if (!mode.forgets()) {
            throw new MisuseException(
                    "--data-to writes what belongs to one person, and none is to be forgotten.",
                    "Give --forget as well.");
        }
        return new PersonDataFile(path);
    }

    private void write(PersonDataFile data, Vacancy vacancy, Request request, Preview preview) {
        String title = preview.records().size() == 1
                ? preview.table() + " "
                        + vacancy.rules().label(preview.records().get(0))
                : preview.table().toString();
        PersonDataFile.Written written = screen.working(() -> {
            try (Stream<Row> rows = vacancy.persons().data(request)) {
                return data.write(rows, title, database.named(), vacancy.schema(), output.textsOfCsv());
            }
        });
        screen.tell(CountText.rows(written.rows()) + " of " + written.tables()
                + (written.tables() == 1 ? " table" : " tables") + " written to " + dataTo + ".");
    }

    private int listWaiting() {
        if (selection.given()) {
            throw new MisuseException(
                    "--waiting lists what waits, and a table or a selection is given as well.", "Leave it out.");
        }
        boolean json = output.json();
        List<OpenQuestion> all = database.open(who, screen).questions().waiting();
        if (json) {
            screen.printAll(database.json().waiting(all));
            return ExitCode.DONE;
        }
        new WaitingScreen(output.layout(screen)).lines(all).forEach(screen::print);
        if (!all.isEmpty()) {
            screen.next(
                    "To look at the first and approve it, after a question:",
                    NextStep.of(List.of("delete", "--approve", all.get(0).id().value()), database.given()));
        }
        return ExitCode.DONE;
    }

    private Listing listing(Vacancy vacancy, Request request) {
        Table table = vacancy.schema().table(rowsOf == null ? String.valueOf(request.table()) : rowsOf);
        List<String> columns = table.columns().stream().map(Column::name).toList();
        if (missing) {
            return new Listing("keys that are not there", table.identity().columns(), () -> vacancy.missing(request));
        }
        if (skipped) {
            // A space keeps them apart from names of columns.
            List<String> with = Stream.concat(columns.stream(), Stream.of("skipped by", "because of"))
                    .toList();
            Request skipping = request.onBlocked(OnBlocked.SKIP);
            return new Listing("rows of " + table + " that are skipped", with, () -> vacancy.skipped(skipping)
                    .map(PreviewCommand::reasoned));
        }
        return new Listing("rows of " + table, columns, () -> vacancy.rows(request, table.toString()));
    }

    private static Row reasoned(SkippedRow skipped) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>(skipped.row().values());
        values.put("skipped by", skipped.relation());
        values.put("because of", skipped.reason());
        return new Row(skipped.row().table(), values);
    }

    private int list(Listing listing) {
        RowList list = new RowList(screen, output, database);
        long listed = screen.working(() -> {
            try (Stream<Row> stream = listing.rows().get()) {
                return list.write(stream, listing.columns());
            }
        });
        String told = listed == 0
                ? "There are no " + listing.what() + "."
                : listed == 1
                        ? "1 " + listing.what().replaceFirst("s ", " ").replaceFirst("that are", "that is") + "."
                        : CountText.grouped(listed) + " " + listing.what() + ".";
        list.tell(told);
        return listed == 0 && !missing && !skipped ? ExitCode.NOTHING : ExitCode.DONE;
    }
}
