package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.screen.Screen;
import io.vacancy.preview.Preview;
import io.vacancy.request.Restore;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(
        name = "restore",
        description = "Brings back rows that are marked as deleted, with those that were marked with them: those of a"
                + " receipt (restore RECEIPT), or those that are selected from a table.")
final class RestoreCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    RestoreCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        String receipt = selection.receipt();
        if (receipt == null) {
            selection.check();
        }
        Asking asking = new Asking(screen, output.json(), answers);
        Vacancy vacancy = database.open(answers.by(), screen);
        Preview preview = screen.working(() -> receipt == null
                ? vacancy.preview(selection.request(vacancy).restoring())
                : vacancy.previewRestore(Restore.of(receipt)));
        return asking.tell(
                vacancy,
                asking.outcome(vacancy, preview, selection.expects(), answer -> vacancy.carryOut(preview, answer)));
    }
}
