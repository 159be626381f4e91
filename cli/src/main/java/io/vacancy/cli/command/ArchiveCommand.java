// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.ArchiveScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.CountText;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "archive",
        description = "Lists what can be restored: of which table and receipt, whose, why, and until when.")
final class ArchiveCommand implements Callable<Integer> {

    private static final String KEPT_AS = "kept as";

    private final Screen screen;

    @Parameters(index = "0", arity = "0..1", paramLabel = "TABLE", description = "Only of this table.")
    private @Nullable String table;

    @Option(names = "--receipt", paramLabel = "ID", description = "Only of this receipt; repeatable.")
    private List<String> receipts = new ArrayList<>();

    @Option(names = "--who", paramLabel = "NAME", description = "Only what this one did.")
    private @Nullable String who;

    @Option(names = "--since", paramLabel = "TIME", description = "Only what was done since then: a date or a time.")
    private @Nullable String since;

    @Option(names = "--before", paramLabel = "TIME", description = "Only what was done before then.")
    private @Nullable String before;

    @Option(names = "--key", paramLabel = "K", description = "List what is kept of the row with this key; repeatable.")
    private List<String> keys = new ArrayList<>();

    @Option(
            names = "--rows",
            description = "List the rows themselves, those that are archived and those that are marked.")
    private boolean rows;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final ListOptions output = new ListOptions();

    ArchiveCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean images = rows || !keys.isEmpty();
        if (images && table == null) {
            throw new MisuseException(
                    "No table is named whose images are meant.", "Write vacancy archive TABLE --rows.");
        }
        Vacancy vacancy = database.open(screen);
        return images && table != null ? images(vacancy, table) : lines(vacancy);
    }

    private int lines(Vacancy vacancy) {
        ArchiveQuery query = ArchiveQuery.all().receipts(receipts());
        query = table == null ? query : query.of(table);
        query = who == null ? query : query.by(who);
        query = since == null ? query : query.since(time(since));
        query = before == null ? query : query.before(time(before));
        // Of what stands on no receipt nobody knows who and when.
        boolean all = receipts.isEmpty() && who == null && since == null && before == null;
        Map<TableName, Long> marked = new TreeMap<>(all ? vacancy.tables().marked() : Map.of());
        if (table != null) {
            // What is archived of it may be left of a table that is gone.
            String named = table;
            marked.keySet()
                    .retainAll(
                            vacancy.schema().has(named)
                                    ? Set.of(vacancy.schema().table(named).name())
                                    : Set.of());
        }
        List<ArchivedRows> kept = List.of();
        if (vacancy.archive().ready() || marked.values().stream().allMatch(rows -> rows == 0)) {
            try (Stream<ArchivedRows> archived = vacancy.archive().rows(query)) {
                kept = archived.toList();
            }
        }
        kept.stream()
                .filter(line -> line.kind() == ArchivedRows.Kind.MARKS)
                .forEach(line -> marked.computeIfPresent(line.table(), (name, rows) -> rows - line.left()));
        marked.values().removeIf(rows -> rows <= 0);
        write(kept, marked);
        return kept.isEmpty() && marked.isEmpty() ? ExitCode.NOTHING : ExitCode.DONE;
    }

    private void write(List<ArchivedRows> kept, Map<TableName, Long> marked) {
        switch (output.ofRows()) {
            case json -> screen.printAll(database.json().archived(kept, marked));
            case csv, jsonl ->
                new RowList(screen, output, database)
                        .write(
                                Stream.concat(
                                        kept.stream().map(ArchiveScreen::row),
                                        marked.entrySet().stream()
                                                .map(each -> ArchiveScreen.row(each.getKey(), each.getValue()))),
                                ArchiveScreen.COLUMNS);
            case text -> {
                new ArchiveScreen(output.layout(screen)).lines(kept, marked).forEach(screen::print);
                if (!kept.isEmpty()) {
                    ReceiptId newest = kept.get(0).receipt();
                    screen.next(
                            "To restore what the newest receipt has, after a question:",
                            NextStep.restore(newest, database.given()));
                }
            }
        }
    }

    private List<ReceiptId> receipts() {
        return receipts.stream().map(ReceiptId::of).toList();
    }

    /** Images, and rows that are marked and stay: both can be restored, and people look for both here. */
    private int images(Vacancy vacancy, String of) {
        Table meant = vacancy.schema().table(of);
        SelectionStep images = Request.purge(of);
        Request request = keys.isEmpty() ? images.everyRow() : images.keys(keys);
        List<String> columns =
                new ArrayList<>(meant.columns().stream().map(Column::name).toList());
        ResolvedMarker marker = vacancy.rules().marker(meant.name());
        boolean marks = marker != null;
        if (marks) {
            // A space keeps it apart from names of columns.
            columns.add(KEPT_AS);
        }
        RowList list = new RowList(screen, output, database);
        long listed = screen.working(() -> {
            try (Stream<Row> archived =
                            vacancy.archive().ready() ? vacancy.images(request, receipts()) : Stream.empty();
                    Stream<Row> marked =
                            marker != null && receipts.isEmpty() ? vacancy.rows(marked(of, marker)) : Stream.empty()) {
                return list.write(
                        marks
                                ? Stream.concat(
                                        archived.map(row -> kept(row, "archived")),
                                        marked.map(row -> kept(row, "marked")))
                                : archived,
                        columns);
            }
        });
        list.tell(
                listed == 0
                        ? "No row of " + of + " is archived" + (marks ? " or marked as deleted." : ".")
                        : CountText.rows(listed) + " of " + of + (listed == 1 ? " is" : " are") + " archived"
                                + (marks ? " or marked as deleted." : "."));
        return listed == 0 ? ExitCode.NOTHING : ExitCode.DONE;
    }

    private Request marked(String of, ResolvedMarker marker) {
        SelectionStep rows = Request.erase(of);
        Condition deleted = marker.deleted();
        return (keys.isEmpty() ? rows.where(deleted) : rows.keys(keys).and(deleted)).includingMarked();
    }

    private static Row kept(Row row, String as) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>(row.values());
        values.put(KEPT_AS, as);
        return new Row(row.table(), values);
    }

    /** A time with its zone, or the begin of a day here. */
    static Instant time(String written) {
        try {
            return written.contains("T")
                    ? Instant.parse(written)
                    : LocalDate.parse(written)
                            .atStartOfDay(ZoneId.systemDefault())
                            .toInstant();
        } catch (DateTimeException wrong) {
            throw new MisuseException(
                    "\"" + written + "\" is not a time.", "Write 2026-11-23, or 2026-11-23T17:00:00Z.");
        }
    }
}
