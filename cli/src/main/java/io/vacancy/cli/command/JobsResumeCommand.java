// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.Job;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "resume", description = "Goes on with a paused job; with a pace, changes how fast a job works.")
final class JobsResumeCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final OneJob job = new OneJob();

    @Option(names = "--rows-per-second", paramLabel = "N", description = "From now on, at most so many rows a second.")
    private @Nullable Double rowsPerSecond;

    @Option(names = "--share", paramLabel = "PERCENT", description = "From now on, only so much of the time.")
    private @Nullable Double share;

    JobsResumeCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        return job.tell(screen, this::resumed, now -> List.of(now.message()));
    }

    private Job resumed(Jobs jobs) {
        if (rowsPerSecond != null || share != null) {
            jobs.pace(job.name(), JobOptions.pace(rowsPerSecond, share));
        }
        return jobs.resume(job.name());
    }
}
