package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.diagram.PreviewDiagram;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.preview.SparedRow;
import io.vacancy.preview.Wording;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.text.json.JsonWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "preview", description = "Shows what deleting rows would do; changes nothing.")
final class PreviewCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final ModeOptions mode = new ModeOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Option(names = "--rows", description = "List every selected row, as text, csv or jsonl.")
    private boolean rows;

    @Option(
            names = "--rows-of",
            paramLabel = "TABLE",
            description = "List every row of this table that would go with the selected ones.")
    private @Nullable String rowsOf;

    @Option(names = "--missing", description = "List every key that was given and is not there.")
    private boolean missing;

    @Option(
            names = "--spared",
            description = "List every selected row that --on-blocked spare would leave out, with the reason.")
    private boolean spared;

    /** A list that is asked for in the place of the preview. */
    private record Listing(String what, List<String> columns, Supplier<Stream<Row>> rows) {}

    @Mixin
    private final DiagramFile diagram = new DiagramFile();

    PreviewCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        selection.check();
        mode.check();
        diagram.check();
        long lists = Stream.of(rows, rowsOf != null, missing, spared)
                .filter(asked -> asked)
                .count();
        if (lists > 1) {
            throw new MisuseException(
                    "Several lists are asked for.", "Ask for one of --rows, --rows-of, --missing and --spared.");
        }
        boolean json = lists == 0 && output.json();
        Vacancy vacancy = database.open(screen);
        Request request = mode.in(selection.request(vacancy));
        if (lists > 0) {
            return list(listing(vacancy, request));
        }
        Preview preview = screen.working(() -> vacancy.preview(request));
        diagram.write(PreviewDiagram.of(preview, vacancy.rules().with(request.rules(), preview.mode())), screen);
        if (json) {
            screen.print(new JsonWriter().write(preview));
        } else {
            new PreviewScreen(vacancy, screen.ink()).lines(preview).forEach(screen::print);
        }
        return ExitCode.of(preview);
    }

    private Listing listing(Vacancy vacancy, Request request) {
        Table table = vacancy.schema().table(rowsOf == null ? request.table() : rowsOf);
        List<String> columns = table.columns().stream().map(Column::name).toList();
        if (missing) {
            return new Listing("keys that are not there", table.identity().columns(), () -> vacancy.missing(request));
        }
        if (spared) {
            // A space keeps them apart from names of columns.
            List<String> with = Stream.concat(columns.stream(), Stream.of("spared by", "because of"))
                    .toList();
            Request sparing = request.onBlocked(OnBlocked.SPARE);
            return new Listing("rows of " + table + " that are spared", with, () -> vacancy.spared(sparing)
                    .map(PreviewCommand::reasoned));
        }
        return new Listing("rows of " + table, columns, () -> vacancy.rows(request, table.toString()));
    }

    private static Row reasoned(SparedRow spared) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>(spared.row().values());
        values.put("spared by", spared.relation());
        values.put("because of", spared.reason());
        return new Row(spared.row().table(), values);
    }

    private int list(Listing listing) {
        RowList list = new RowList(screen, output.ofRows());
        long listed = screen.working(() -> {
            try (Stream<Row> stream = listing.rows().get()) {
                return list.write(stream, listing.columns());
            }
        });
        String told = listed == 0
                ? "There are no " + listing.what() + "."
                : listed == 1
                        ? "1 " + listing.what().replaceFirst("s ", " ").replaceFirst("that are", "that is") + "."
                        : Wording.grouped(listed) + " " + listing.what() + ".";
        list.tell(told);
        return listed == 0 && !missing && !spared ? ExitCode.NOTHING : ExitCode.DONE;
    }
}
