// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import io.vacancy.jobs.watch.JobState;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(
        name = "cancel",
        description = "Ends a job after the batch that it is at. What is committed stays, and can be restored.")
final class JobsCancelCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final JobNameOption job = new JobNameOption();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    JobsCancelCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        try (Jobs jobs = database.jobs(new ActorOptions())) {
            Job now = jobs.cancel(job.name());
            if (json) {
                screen.printAll(JobJson.write(now));
            } else {
                screen.print(
                        now.state() == JobState.RUNNING
                                ? "Job " + now.name() + " ends after the batch that it is at."
                                : now.message());
            }
            return ExitCode.DONE;
        }
    }
}
