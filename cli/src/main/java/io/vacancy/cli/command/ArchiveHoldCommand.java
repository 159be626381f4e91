// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Archive;
import io.vacancy.Vacancy;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.ArchiveScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "hold",
        description =
                "Keeps something from being purged or erased: what a receipt has archived (hold RECEIPT), every row of a table (hold"
                        + " TABLE), or one row (hold TABLE --key K). Without any of them lists the holds in force.")
final class ArchiveHoldCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", arity = "0..1", paramLabel = "RECEIPT|TABLE", description = "What is held.")
    private @Nullable String what;

    @Option(names = "--key", paramLabel = "K", description = "Only the row with this key, and its archived images.")
    private @Nullable String key;

    @Option(names = "--because", paramLabel = "WHY", description = "Why; required.")
    private @Nullable String because;

    @Mixin
    private final ActorOptions who = new ActorOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    ArchiveHoldCommand(Screen screen) {
        this.screen = screen;
    }

    /** Whether there is something to hold: the row, or an image of it. */
    private static boolean isThere(Vacancy vacancy, String table, String key) {
        try (Stream<Row> rows = vacancy.rows(Request.erase(table).key(key).includingMarked());
                Stream<Row> images = vacancy.images(Request.purge(table).key(key), List.of())) {
            return Stream.concat(rows, images).findAny().isPresent();
        }
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        if (what != null && because == null) {
            throw new MisuseException("A hold requires a reason.", "Give --because WHY.");
        }
        Vacancy vacancy = database.open(who, screen);
        Archive archive = vacancy.archive();
        if (what == null || because == null) {
            if (json) {
                screen.printAll(database.json().holds(archive.holds()));
            } else {
                new ArchiveScreen(output.layout(screen)).holds(archive.holds()).forEach(screen::print);
            }
            return ExitCode.DONE;
        }
        if (key != null && !isThere(vacancy, what, key)) {
            screen.tell("Table " + what + " has no row with the key " + key
                    + ", and none is archived; no hold was made.\n" + "See vacancy archive " + what + " for what is.");
            return ExitCode.NOTHING;
        }
        Hold placed = SelectionOptions.isReceipt(what)
                ? archive.holdReceipt(ReceiptId.of(what), because)
                : key == null ? archive.holdTable(what, because) : archive.holdRow(what, key, because);
        if (json) {
            screen.printAll(database.json().holds(List.of(placed)));
            return ExitCode.DONE;
        }
        screen.print(screen.style().settled("Done.") + " Hold " + placed.number() + " is on " + placed.on() + ".");
        return ExitCode.DONE;
    }
}
