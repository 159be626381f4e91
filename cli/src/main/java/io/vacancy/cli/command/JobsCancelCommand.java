// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.jobs.watch.JobState;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(
        name = "cancel",
        description = "Ends a job after the batch that it is at. What is committed stays, and can be restored.")
final class JobsCancelCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final OneJob job = new OneJob();

    JobsCancelCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        return job.tell(
                screen,
                jobs -> jobs.cancel(job.name()),
                now -> List.of(
                        now.state() == JobState.RUNNING
                                ? "Job " + now.name() + " ends after the batch that it is at."
                                : now.message()));
    }
}
