// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.util.Arrays;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "start",
        description =
                "Orders a job: shows what it would delete, asks, and keeps it; nothing is deleted yet. With --every it"
                        + " recurs, each time with the rows that match then.")
final class JobsStartCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final ModeOptions mode = new ModeOptions();

    @Mixin
    private final JobOptions options = new JobOptions();

    @Option(
            names = "--every",
            paramLabel = "TIME",
            description = "Do it again and again: 03:00, PT6H (so long after the last end), or five fields of crontab;"
                    + " behind it a zone.")
    private @Nullable String every;

    @Option(
            names = "--upkeep",
            paramLabel = "WHAT",
            description =
                    "Instead of a deletion: purge-due (whatever has expired), seal (the audit history) or pass-on (events of"
                            + " the outbox, by a node that was told where to).")
    private @Nullable String upkeep;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    JobsStartCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        options.check();
        if (every != null) {
            JobOptions.every(every);
        }
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        JobFlow flow = new JobFlow(screen, output, asking, answers);
        if (upkeep != null) {
            if (selection.given()) {
                throw new MisuseException("--upkeep says itself what is done.", "Leave table and selection out.");
            }
            JobOrder order = recurring(JobOrder.of(upkeep(upkeep)));
            try (Jobs jobs = database.jobs(answers.who())) {
                return flow.tell(database.open(answers.who(), screen), jobs.submit(options.in(order)));
            }
        }
        selection.check(mode);
        mode.checkForJob();
        Vacancy vacancy = database.open(answers.who(), screen);
        if (!selection.completed(vacancy, screen)) {
            return ExitCode.DECLINED;
        }
        Request request = answers.in(selection.request(vacancy, mode));
        Preview preview = screen.working(() -> vacancy.preview(request));
        JobOrder order = options.in(JobOrder.of(preview));
        if (every != null) {
            order = recurring(order.onChange(ChangePolicy.MATCHING));
        }
        try (Jobs jobs = database.jobs(answers.who())) {
            return flow.order(vacancy, jobs, preview, order);
        }
    }

    private JobOrder recurring(JobOrder order) {
        return every == null ? order : order.every(JobOptions.every(every));
    }

    private static Upkeep upkeep(String word) {
        return Arrays.stream(Upkeep.values())
                .filter(each -> each.word().equals(word))
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "--upkeep " + word + " is unknown.",
                        "Write one of "
                                + Arrays.stream(Upkeep.values())
                                        .map(Upkeep::word)
                                        .collect(Collectors.joining(", "))
                                + "."));
    }
}
