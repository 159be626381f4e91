// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.JobScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "show", description = "Tells all that there is to say of one job.")
final class JobsShowCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final JobNameOption job = new JobNameOption();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    JobsShowCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        try (Jobs jobs = database.jobs(new ActorOptions())) {
            Job now = jobs.find(job.name())
                    .orElseThrow(() -> new MisuseException("There is no job " + job.name() + ".", "See vacancy jobs."));
            if (json) {
                screen.printAll(JobJson.write(now));
            } else {
                new JobScreen(screen.style()).lines(now).forEach(screen::print);
            }
            return ExitCode.DONE;
        }
    }
}
