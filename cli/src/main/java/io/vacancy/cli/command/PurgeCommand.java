package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Images;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "purge",
        description =
                "Removes for good what is kept: everything of a receipt (purge RECEIPT), the images of selected rows"
                        + " of a table, or whatever is due. What is held stays.")
final class PurgeCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Option(
            names = "--due",
            description =
                    "What the rule book need not keep any longer: images, and rows that have been marked as deleted"
                            + " for long enough, which are erased by all rules. What something stands in the way of stays.")
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
        String receipt = selection.receipt();
        if (due && selection.given()) {
            throw new MisuseException("--due says itself what goes.", "Leave table and selection out.");
        }
        if (!due && receipt == null) {
            selection.check();
        }
        Asking asking = new Asking(screen, output.json(), answers);
        Vacancy vacancy = database.open(answers.who(), screen);
        if (due) {
            return due(vacancy, asking);
        }
        Request request = receipt == null
                ? selection.request(vacancy).purging()
                : vacancy.requestFor(receipt)
                        .fromArchive(Images.of(List.of(receipt)))
                        .purging();
        return asking.tell(vacancy, outcome(vacancy, request, asking));
    }

    /** One after the other, each asked about; the worst ending is that of all. */
    private int due(Vacancy vacancy, Asking asking) {
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
            int code = asking.tell(vacancy, outcome(vacancy, request.because("its time is over"), asking));
            worst = worst == ExitCode.DONE ? code : worst;
            if (request != requests.get(requests.size() - 1)) {
                screen.print("");
            }
        }
        return worst;
    }

    private Outcome outcome(Vacancy vacancy, Request request, Asking asking) {
        Preview preview = screen.working(() -> vacancy.preview(request));
        return asking.outcome(vacancy, preview, selection.expects(), answer -> vacancy.carryOut(preview, answer));
    }
}
