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
        if (!due && receipt == null) {
            selection.checkReceipt("purge");
            selection.check();
        }
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        if (due) {
            return due(vacancy, asking);
        }
        Request request = receipt == null
                ? selection.request(vacancy, Request::purge)
                : selection.settled(Request.purge(receipt));
        return asking.tell(vacancy, outcome(vacancy, request, asking));
    }

    /** One after the other, each asked about; the worst ending is that of all. */
    private int due(Vacancy vacancy, ConfirmationFlow asking) {
        List<Request> requests = new ArrayList<>();
        for (Request request : vacancy.archive().due()) {
            if (vacancy.preview(request).state() != State.NOTHING) {
                requests.add(request);
            }
        }
        if (requests.isEmpty()) {
            screen.print("Nothing is due.");
            return ExitCode.NOTHING;
        }
        int worst = ExitCode.DONE;
        for (Request request : requests) {
            int code = asking.tell(vacancy, outcome(vacancy, request.because("its retention has expired"), asking));
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
