// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.trail.MacKey;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "restore",
        description =
                "Restores rows: everything of a receipt (restore RECEIPT), or selected rows of a table with what was"
                        + " deleted with them. Soft-deleted rows are restored first, then archived ones.")
final class RestoreCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Option(
            names = "--only",
            paramLabel = "TABLE",
            description = "Of a receipt, only rows of this table with what was deleted with them; --key says which.")
    private @Nullable String only;

    @Option(names = "--from", paramLabel = "FILE", description = "From a file that delete --save-to wrote.")
    private @Nullable Path fromFile;

    @Option(
            names = "--into",
            paramLabel = "TABLE",
            description =
                    "The only tables that the file may have rows and links of; repeatable. Required of a file that is"
                            + " not sealed with a secret.")
    private List<String> into = new ArrayList<>();

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
        ReceiptId receipt = only == null ? selection.receipt() : selection.receiptWithKeys();
        if (only != null && receipt == null) {
            throw new MisuseException("--only is for a part of a receipt, and none is named.");
        }
        if (fromFile != null && selection.given()) {
            throw new MisuseException(
                    "What is restored from a file is what is in it.", "Leave table and selection out.");
        }
        if (fromFile == null && !into.isEmpty()) {
            throw new MisuseException("--into is for the tables of a file, and --from names none.");
        }
        if (receipt == null && fromFile == null) {
            selection.checkReceipt("restore");
            selection.check();
        }
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        Request request = answers.in(request(vacancy, receipt));
        Preview preview = screen.working(() -> vacancy.preview(request));
        return asking.tell(vacancy, asking.outcome(vacancy, preview));
    }

    private Request request(Vacancy vacancy, @Nullable ReceiptId receipt) {
        if (fromFile != null) {
            MacKey key = database.fileKey();
            SavedFile file = key == null ? SavedFile.open(fromFile) : SavedFile.open(fromFile, key);
            return selection.settled(Request.restore(file, into));
        }
        if (receipt == null) {
            return selection.request(vacancy, Request::restore);
        }
        if (only == null) {
            return selection.settled(Request.restore(receipt));
        }
        SelectionStep part = Request.restore(receipt, only);
        return selection.settled(selection.keys().isEmpty() ? part.everyRow() : part.keys(selection.keys()));
    }
}
