// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.JobScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "jobs",
        description = "Lists large deletions that were ordered as jobs; its subcommands order, watch, steer and carry"
                + " them out.")
final class JobsCommand implements Callable<Integer> {

    private final Screen screen;

    @Option(names = "--open", description = "Only those that are not over.")
    private boolean open;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    JobsCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        try (Jobs jobs = database.jobs(new ActorOptions())) {
            List<Job> all = jobs.list().stream()
                    .filter(job -> !open || !job.state().over())
                    .toList();
            if (json) {
                screen.printAll(database.json().about(JobJson.write(all)));
            } else if (all.isEmpty()) {
                screen.print("No jobs.");
            } else {
                new JobScreen(output.layout(screen)).list(all).forEach(screen::print);
            }
            return all.isEmpty() ? ExitCode.NOTHING : ExitCode.DONE;
        }
    }
}
