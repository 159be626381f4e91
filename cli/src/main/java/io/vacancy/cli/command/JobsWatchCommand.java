// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.command.OutputOptions.Format;
import io.vacancy.cli.screen.JobScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import io.vacancy.jobs.watch.JobState;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(
        name = "watch",
        description =
                "Shows how far a job is until it is over or paused, then tells how it went. Ctrl-C ends the watching,"
                        + " not the job.")
final class JobsWatchCommand implements Callable<Integer> {

    private static final long REDRAWN_MILLIS = 250;

    private final Screen screen;

    @Mixin
    private final JobName job = new JobName();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    JobsWatchCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() throws InterruptedException {
        if (output.ofRows() == Format.csv) {
            throw new MisuseException(
                    "--format csv is for lists of rows.", "Give --format jsonl: a line for each look.");
        }
        try (Jobs jobs = database.jobs(new ActorOptions())) {
            Job now = look(jobs);
            while (!now.state().over() && now.state() != JobState.PAUSED) {
                draw(now);
                Thread.sleep(REDRAWN_MILLIS);
                Job later = look(jobs);
                if (output.ofRows() == Format.jsonl && !later.equals(now)) {
                    screen.printAll(JobJson.line(later));
                }
                now = later;
            }
            return tell(now);
        }
    }

    private Job look(Jobs jobs) {
        return jobs.find(job.name())
                .orElseThrow(() -> new MisuseException("There is no job " + job.name() + ".", "See vacancy jobs."));
    }

    private void draw(Job now) {
        if (screen.terminal() && output.ofRows() == Format.text) {
            screen.status(new JobScreen(output.layout(screen)).line(now));
        }
    }

    private int tell(Job over) {
        if (screen.terminal() && output.ofRows() == Format.text) {
            screen.status("");
        }
        switch (output.ofRows()) {
            case json -> screen.printAll(database.json().about(JobJson.write(over)));
            case jsonl -> {}
            default -> {
                new JobScreen(output.layout(screen)).lines(over).forEach(screen::print);
                NextStep.after(over, database, screen);
            }
        }
        return switch (over.state()) {
            case FAILED -> ExitCode.FAILED;
            case CANCELLED -> ExitCode.DECLINED;
            default -> ExitCode.DONE;
        };
    }
}
