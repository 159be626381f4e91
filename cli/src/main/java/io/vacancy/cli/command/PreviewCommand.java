package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.RowsScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.diagram.PreviewDiagram;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Wording;
import io.vacancy.request.Request;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.text.json.JsonWriter;
import io.vacancy.text.rows.RowWriter;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
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

    @Mixin
    private final DiagramFile diagram = new DiagramFile();

    PreviewCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        selection.check();
        diagram.check();
        if ((rows ? 1 : 0) + (rowsOf == null ? 0 : 1) + (missing ? 1 : 0) > 1) {
            throw new MisuseException(
                    "Several lists are asked for.", "Ask for one of --rows, --rows-of and --missing.");
        }
        boolean lists = rows || rowsOf != null || missing;
        boolean json = !lists && output.json();
        Vacancy vacancy = database.open(null, screen);
        Request request = selection.request(vacancy);
        if (lists) {
            return list(vacancy, request);
        }
        Preview preview = screen.working(() -> vacancy.preview(request));
        diagram.write(PreviewDiagram.of(preview, vacancy.rules().with(request.rules())), screen);
        if (json) {
            screen.print(new JsonWriter().write(preview));
        } else {
            new PreviewScreen(vacancy, screen.ink()).lines(preview).forEach(screen::print);
        }
        return ExitCode.of(preview);
    }

    /** What a program reads holds rows alone; the count is for people. */
    private int list(Vacancy vacancy, Request request) {
        Table table = vacancy.schema().table(rowsOf == null ? request.table() : rowsOf);
        long listed = screen.working(() -> {
            try (Stream<Row> stream = missing ? vacancy.missing(request) : vacancy.rows(request, table.toString())) {
                return write(stream, table);
            }
        });
        String what = missing ? "keys that are not there" : "rows of " + table;
        String told = listed == 0 ? "There are no " + what + "." : Wording.grouped(listed) + " " + what + ".";
        if (output.ofRows() == OutputOptions.Format.text) {
            screen.print(told);
        } else {
            screen.tell(told);
        }
        return listed == 0 && !missing ? ExitCode.NOTHING : ExitCode.DONE;
    }

    private long write(Stream<Row> rows, Table table) {
        if (output.ofRows() == OutputOptions.Format.text) {
            return new RowsScreen(screen.ink()).write(rows, screen::print);
        }
        Writer out = new BufferedWriter(new OutputStreamWriter(screen.out(), StandardCharsets.UTF_8));
        List<Column> columns =
                missing ? table.identity().columns().stream().map(table::column).toList() : table.columns();
        RowWriter writer =
                switch (output.ofRows()) {
                    case csv -> RowWriter.csv(out, columns);
                    case jsonl -> RowWriter.jsonLines(out);
                    default ->
                        throw new MisuseException(
                                "--format json is one document, and rows are listed one by one.",
                                "Give --format jsonl or csv.");
                };
        long[] written = {0};
        rows.forEachOrdered(row -> {
            writer.write(row);
            written[0]++;
        });
        try {
            out.flush();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        return written[0];
    }
}
