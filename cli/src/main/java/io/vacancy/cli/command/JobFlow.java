// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.JobScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import java.util.List;

/** The way from a preview to a job that is ordered: shown, asked, kept, told. */
record JobFlow(Screen screen, OutputOptions output, ConfirmationFlow asking, AnswerOptions answers) {

    /** Shows, asks and orders. Returns the exit code. */
    int order(Vacancy vacancy, Jobs jobs, Preview preview, JobOrder order) {
        asking.show(vacancy, preview);
        if (answers.meanAnother(preview)) {
            return asking.tell(vacancy, Outcome.Changed.since(null, preview));
        }
        Answer given = answers.given(preview, screen, asking.database().named());
        return tell(vacancy, screen.working(() -> given == null ? jobs.submit(order) : jobs.submit(order, given)));
    }

    /** Says what became of an order. */
    int tell(Vacancy vacancy, Submission submission) {
        if (submission instanceof Submission.Rejected rejected) {
            return asking.tell(vacancy, rejected.outcome());
        }
        Submission.Accepted accepted = (Submission.Accepted) submission;
        Job job = accepted.job();
        if (output.json()) {
            screen.printAll(asking.database().json().about(JobJson.write(job)));
            return ExitCode.DONE;
        }
        new JobScreen(output.layout(screen)).ordered(job, accepted.repeated()).forEach(screen::print);
        List<String> given = asking.database().given();
        screen.next(
                "To carry out what is ordered, unless the application does:",
                NextStep.of(List.of("jobs", "run"), given));
        NextStep.after(job, asking.database(), screen);
        return ExitCode.DONE;
    }
}
