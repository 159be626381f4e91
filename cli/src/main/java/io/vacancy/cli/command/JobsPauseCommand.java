// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.watch.JobState;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "pause", description = "Puts a job down after the batch that it is at, until it is resumed.")
final class JobsPauseCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final OneJob job = new OneJob();

    JobsPauseCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        return job.tell(
                screen,
                jobs -> jobs.pause(job.name()),
                now -> List.of(
                        now.state() == JobState.RUNNING
                                ? "Job " + now.name() + " is put down after the batch that it is at."
                                : now.message()));
    }
}
