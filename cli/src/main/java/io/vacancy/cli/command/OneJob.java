// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import java.util.List;
import java.util.function.Function;
import picocli.CommandLine.Mixin;

/** Which job, in which database, and how what is done with it is told. */
final class OneJob {

    @Mixin
    private final JobName job = new JobName();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    String name() {
        return job.name();
    }

    /** Does something with it, and tells how it stands then, in JSON or in these lines. Returns the exit code. */
    int tell(Screen screen, Function<Jobs, Job> doing, Function<Job, List<String>> lines) {
        boolean json = output.json();
        try (Jobs jobs = database.jobs(new ActorOptions())) {
            Job now = doing.apply(jobs);
            if (json) {
                screen.printAll(database.json().about(JobJson.write(now)));
            } else {
                lines.apply(now).forEach(screen::print);
                NextStep.after(now, database, screen);
            }
            return ExitCode.DONE;
        }
    }
}
