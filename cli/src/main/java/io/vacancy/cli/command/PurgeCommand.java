// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "purge",
        description = "Removes archived rows for good: everything of a receipt (purge RECEIPT), selected rows"
                + " of a table, or whatever is due. What is held stays.")
final class PurgeCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Option(
            names = "--due",
            description = "What has expired by the rule book: archived rows, and rows that have been marked as deleted"
                    + " for long enough, which are erased by all rules. What is blocked stays.")
    private boolean due;

    @Option(
            names = "--person",
            description = "With the --key of a person: everything that is archived of rows that belong to the person,"
                    + " under any receipt, table by table.")
    private boolean person;

    @Option(
            names = "--destroy-key",
            description =
                    "With --person and --person-keys: destroy the person's key after that, so that nobody reads what"
                            + " backups of the database have of the archive.")
    private boolean destroyKey;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    PurgeCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        ReceiptId receipt = selection.receipt();
        if (due && selection.given()) {
            throw new MisuseException("--due says itself what is purged.", "Leave table and selection out.");
        }
        if (due && person) {
            throw new MisuseException("--due says itself what is purged.", "Leave --person out.");
        }
        if (destroyKey && !person) {
            throw new MisuseException("--destroy-key is for the key of one person.", "Give --person as well.");
        }
        if (person) {
            selection.checkPerson();
        }
        if (!due && receipt == null) {
            selection.checkReceipt("purge");
            selection.check();
        }
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        if (due) {
            return each(vacancy, due(vacancy), "Nothing is due.", asking);
        }
        if (person) {
            List<Request> purges = new ArrayList<>();
            for (Request request : screen.working(() -> selection.archivedOfPerson(vacancy))) {
                purges.add(selection.settled(request));
            }
            int code = each(vacancy, purges, "Nothing is archived of what belongs to the person.", asking);
            boolean purged = code == ExitCode.DONE || code == ExitCode.NOTHING;
            return destroyKey && purged ? destroyKey(vacancy) : code;
        }
        Request request = receipt == null
                ? selection.request(vacancy, Request::purge)
                : selection.settled(Request.purge(receipt));
        return asking.tell(vacancy, outcome(vacancy, request, asking));
    }

    private int destroyKey(Vacancy vacancy) {
        boolean agreed = answers.agreed(
                "Destroy the key of " + selection.personNamed() + "?",
                "Nobody will read any more what is personal in archived rows of the person, in no copy of the database."
                        + " It cannot be taken back.",
                screen);
        if (!agreed) {
            screen.print("The key was not destroyed.");
            return ExitCode.DECLINED;
        }
        boolean destroyed = selection.destroyKey(vacancy);
        screen.print(
                destroyed
                        ? screen.style().settled("Done.") + " The key of " + selection.personNamed() + " is destroyed."
                        : "There is no key of " + selection.personNamed() + ".");
        return destroyed ? ExitCode.DONE : ExitCode.NOTHING;
    }

    private static List<Request> due(Vacancy vacancy) {
        return vacancy.archive().due().stream()
                .filter(request -> vacancy.preview(request).state() != State.NOTHING)
                .map(request -> request.because("its retention has expired"))
                .toList();
    }

    /** One after the other, each asked about; the worst ending is that of all. */
    private int each(Vacancy vacancy, List<Request> requests, String none, ConfirmationFlow asking) {
        if (requests.isEmpty()) {
            screen.print(none);
            return ExitCode.NOTHING;
        }
        int worst = ExitCode.DONE;
        for (Request request : requests) {
            int code = asking.tell(vacancy, outcome(vacancy, request, asking));
            worst = worst == ExitCode.DONE ? code : worst;
            if (request != requests.get(requests.size() - 1)) {
                screen.print("");
            }
        }
        return worst;
    }

    private Outcome outcome(Vacancy vacancy, Request request, ConfirmationFlow asking) {
        Request asked = answers.in(request);
        Preview preview = screen.working(() -> vacancy.preview(asked));
        return asking.outcome(vacancy, preview);
    }
}
