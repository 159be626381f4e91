// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.JobScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "show", description = "Tells all that there is to say of one job.")
final class JobsShowCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final OneJob job = new OneJob();

    JobsShowCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        return job.tell(
                screen,
                jobs -> jobs.find(job.name())
                        .orElseThrow(
                                () -> new MisuseException("There is no job " + job.name() + ".", "See vacancy jobs.")),
                new JobScreen(screen.layout())::lines);
    }
}
