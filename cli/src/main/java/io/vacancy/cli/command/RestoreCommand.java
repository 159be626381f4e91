package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Images;
import io.vacancy.request.Request;
import io.vacancy.request.Restore;
import io.vacancy.text.rows.SavedFile;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "restore",
        description =
                "Brings rows back: everything of a receipt (restore RECEIPT), or selected rows of a table with what"
                        + " hung on them. Rows that are marked as deleted come before images of rows that went.")
final class RestoreCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Option(
            names = "--only",
            paramLabel = "TABLE",
            description = "Of a receipt, only rows of this table with what hung on them; --key says which.")
    private @Nullable String only;

    @Option(names = "--from", paramLabel = "FILE", description = "From a file that delete --save-to wrote.")
    private @Nullable Path fromFile;

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
        String receipt = only == null ? selection.receipt() : selection.receiptWithKeys();
        if (only != null && receipt == null) {
            throw new MisuseException("--only is for a part of a receipt, and none is named.");
        }
        if (fromFile != null && selection.given()) {
            throw new MisuseException(
                    "What comes back from a file is what is in it.", "Leave table and selection out.");
        }
        if (receipt == null && fromFile == null) {
            selection.check();
        }
        Asking asking = new Asking(screen, output.json(), answers);
        Vacancy vacancy = database.open(answers.who(), screen);
        Preview preview = screen.working(() -> preview(vacancy, receipt));
        return asking.tell(
                vacancy,
                asking.outcome(vacancy, preview, selection.expects(), answer -> vacancy.carryOut(preview, answer)));
    }

    private Preview preview(Vacancy vacancy, @Nullable String receipt) {
        if (fromFile != null) {
            SavedFile file = SavedFile.open(fromFile);
            if (file.lines().isEmpty()) {
                throw new MisuseException("The file " + fromFile + " has no rows.");
            }
            Request request = Request.from(file.lines().get(0).table().toString())
                    .everyRow()
                    .fromArchive(Images.of(file));
            return vacancy.preview(selection.settled(request));
        }
        if (receipt != null) {
            Restore restore = Restore.of(receipt);
            Restore part = only == null ? restore : restore.only(only, selection.keys());
            return vacancy.preview(selection.settled(vacancy.request(part)));
        }
        Request selected = selection.request(vacancy);
        boolean marker =
                vacancy.rules().marker(vacancy.schema().table(selected.table()).name()) != null;
        Preview marked = marker ? vacancy.preview(selected.restoring()) : null;
        if (marked != null
                && (marked.state() != State.NOTHING || !vacancy.archive().ready())) {
            return marked;
        }
        return vacancy.preview(selected.fromArchive(Images.any()));
    }
}
