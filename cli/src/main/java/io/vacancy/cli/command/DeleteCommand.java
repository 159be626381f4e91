// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.json.saved.PartFile;
import io.vacancy.json.saved.SavedFileWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.Request;
import io.vacancy.schema.Table;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "delete",
        description = "Shows what deleting rows would do, asks, carries it out and says what was done.")
final class DeleteCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final ModeOptions mode = new ModeOptions();

    @Mixin
    private final MergeOptions merge = new MergeOptions();

    @Mixin
    private final PlusOptions plus = new PlusOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final ListOptions output = new ListOptions();

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    @Mixin
    private final ApprovalOptions approval = new ApprovalOptions();

    @Option(
            names = "--records-to",
            paramLabel = "FILE",
            description =
                    "Write every selected row that is deleted to a new file: CSV if its name ends in .csv, else JSON"
                            + " Lines.")
    private @Nullable Path recordsTo;

    @Option(
            names = "--save-to",
            paramLabel = "FILE",
            description =
                    "Write every row that is deleted, and every link that changes, to a new file of JSON Lines before"
                            + " anything does; restore --from restores it.")
    private @Nullable Path saveTo;

    @Option(
            names = "--as-job",
            description =
                    "Order it as a job, which deletes in batches of one transaction each, and end; see vacancy jobs.")
    private boolean asJob;

    @Mixin
    private final JobOptions job = new JobOptions();

    DeleteCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        if (approval.given()) {
            return decide();
        }
        selection.check(mode);
        plus.check(selection, mode, merge);
        merge.check(mode);
        if (saveTo != null
                && recordsTo != null
                && saveTo.toAbsolutePath()
                        .normalize()
                        .equals(recordsTo.toAbsolutePath().normalize())) {
            throw new MisuseException("--save-to and --records-to name the same file.", "Give two names.");
        }
        if (job.given() && !asJob) {
            throw new MisuseException(
                    job.first() + " is for a job, and none is ordered.", "Give --as-job, too, or leave it out.");
        }
        if (asJob) {
            mode.checkForJob();
            plus.checkForJob();
        }
        if (asJob && merge.given()) {
            throw new MisuseException("A merge is one transaction, and no job.", "Leave --as-job out.");
        }
        if (asJob && (saveTo != null || recordsTo != null)) {
            throw new MisuseException(
                    "A job writes no files: it may be carried out on another machine.",
                    "Leave --save-to and --records-to out; vacancy history and archive tell what was deleted.");
        }
        job.check();
        if (recordsTo != null) {
            PartFile.check(recordsTo, "The records");
        }
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        if (!selection.completed(vacancy, screen)) {
            return ExitCode.DECLINED;
        }
        Request request = answers.in(
                merge.given() ? selection.request(merge, mode) : plus.in(selection.request(vacancy, mode), mode));
        if (asJob) {
            Preview preview = screen.working(() -> vacancy.preview(request));
            try (Jobs jobs = database.jobs(answers.who())) {
                return new JobFlow(screen, output, asking, answers)
                        .order(vacancy, jobs, preview, job.in(JobOrder.of(preview)));
            }
        }
        if (saveTo == null) {
            return asking.tell(vacancy, asked(vacancy, request, asking));
        }
        try (SavedFileWriter file = new SavedFileWriter(saveTo, database.fileKey())) {
            Outcome outcome = asked(vacancy.saveTo(file), request, asking);
            int code = asking.tell(vacancy, outcome);
            if (outcome instanceof Outcome.Done done && Files.exists(saveTo)) {
                screen.tell("Saved to " + saveTo + "; `vacancy restore --from " + saveTo + wayBack(done.receipt())
                        + "` restores it.");
            }
            return code;
        }
    }

    /** Of what somebody else has asked for. */
    private int decide() {
        String said = mode.said() != null ? mode.said() : merge.given() ? "--merge-into" : null;
        approval.check(
                selection,
                asJob ? "--as-job" : saveTo != null ? "--save-to" : recordsTo != null ? "--records-to" : said);
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        ApprovalFlow deciding = new ApprovalFlow(screen, asking);
        return asking.tell(
                vacancy,
                approval.approves()
                        ? deciding.approve(vacancy, approval.id())
                        : deciding.decline(vacancy, approval.id()));
    }

    /** What is sealed is known to be what was saved; of anything else the tables have to be named. */
    private String wayBack(Receipt receipt) {
        String sealed = database.fileKeyOption();
        return sealed != null
                ? sealed
                : receipt.effects().stream()
                        .map(effect -> " --into " + effect.table())
                        .distinct()
                        .collect(Collectors.joining());
    }

    /** Whoever says no to several rows may leave some of them out and be asked again. */
    private Outcome asked(Vacancy vacancy, Request first, ConfirmationFlow asking) {
        Request request = first;
        while (true) {
            Request looked = request;
            Preview preview = screen.working(() -> vacancy.preview(looked));
            if (preview.approval() != null && (saveTo != null || recordsTo != null)) {
                throw new MisuseException(
                        "Somebody else has to approve it (" + preview.approval()
                                + ") and has it carried out, so no file would be written.",
                        "Leave --save-to and --records-to out; the archive has the rows.");
            }
            Outcome outcome = asking.outcome(vacancy, preview, (shown, answer) -> execute(vacancy, shown, answer));
            boolean again = outcome instanceof Outcome.Declined
                    && answers.none()
                    && selection.mayBeSeveral()
                    && preview.impact().selected() > 1;
            Request narrowed = again ? narrowed(vacancy, request, preview) : null;
            if (narrowed == null) {
                return outcome;
            }
            request = narrowed;
        }
    }

    /** The same request about fewer rows, or null if all of them are to be left. */
    private @Nullable Request narrowed(Vacancy vacancy, Request request, Preview preview) {
        Table table = vacancy.schema().table(preview.table());
        while (true) {
            String further =
                    screen.ask("Not these? A further condition asks again about fewer rows; nothing leaves them all: ");
            if (further == null || further.isBlank()) {
                return null;
            }
            try {
                Condition condition = SelectionOptions.condition(further).readFor(table, vacancy.schema());
                screen.tell("");
                return request.and(condition);
            } catch (MisuseException notUnderstood) {
                screen.tell(String.valueOf(notUnderstood.getMessage()));
            }
        }
    }

    /** The files get their names with the commit; what is not complete by then is removed. */
    private Outcome execute(Vacancy vacancy, Preview preview, @Nullable Answer answer) {
        if (recordsTo != null) {
            try (RecordsFile file =
                    new RecordsFile(recordsTo, vacancy.schema().table(preview.table()), output.textsOfCsv())) {
                Outcome outcome =
                        ConfirmationFlow.executing(vacancy.onEachRow(file)).apply(preview, answer);
                if (outcome instanceof Outcome.InDoubt) {
                    file.leave();
                }
                return outcome;
            }
        }
        return ConfirmationFlow.executing(vacancy).apply(preview, answer);
    }
}
