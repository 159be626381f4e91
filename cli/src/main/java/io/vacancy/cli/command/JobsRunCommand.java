// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.JobScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.notice.EventPost;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import java.net.URI;
import java.net.URISyntaxException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "run",
        description =
                "Makes this process a node that carries out what is ordered, until Ctrl-C; several may run at once. A"
                        + " job that it works on then is put down after its batch, and goes on elsewhere or later.")
final class JobsRunCommand implements Callable<Integer> {

    private static final long LOOK_MILLIS = 200;

    private final Screen screen;

    @Option(names = "--until-idle", description = "End when no job is left that could go on now.")
    private boolean untilIdle;

    @Option(
            names = "--events-to",
            paramLabel = "URL",
            description = "Where jobs of --upkeep pass-on post the events of the outbox, as CloudEvents.")
    private @Nullable String eventsTo;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final ActorOptions who = new ActorOptions();

    private final Map<String, JobState> told = new HashMap<>();

    JobsRunCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() throws InterruptedException {
        try (Jobs jobs = database.jobs(who, this::passingOn)) {
            jobs.start();
            screen.tell("Carrying out jobs; Ctrl-C puts them down.");
            return screen.working(() -> run(jobs));
        }
    }

    private Jobs.Builder passingOn(Jobs.Builder builder) {
        if (eventsTo == null) {
            return builder;
        }
        try {
            URI address = new URI(eventsTo);
            if (List.of("http", "https").contains(String.valueOf(address.getScheme())) && address.getHost() != null) {
                return builder.events(new EventPost(address));
            }
        } catch (URISyntaxException broken) {
            // As one that leads nowhere.
        }
        throw new MisuseException(
                "--events-to " + eventsTo + " is no address.", "Write one such as https://office.example/events.");
    }

    private int run(Jobs jobs) {
        boolean failed = false;
        while (!screen.cancellation().cancelled()) {
            boolean idle = true;
            for (Job job : jobs.list()) {
                failed |= tell(job);
                idle &= !couldGoOn(job);
            }
            if (idle && untilIdle) {
                return failed ? ExitCode.FAILED : ExitCode.DONE;
            }
            try {
                Thread.sleep(LOOK_MILLIS);
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
                break;
            }
        }
        return ExitCode.DONE;
    }

    private static boolean couldGoOn(Job job) {
        Instant due = job.dueAt();
        return !job.state().over() && job.state() != JobState.PAUSED && (due == null || !due.isAfter(Instant.now()));
    }

    /** Tells when a job begins and how it ends, of those that were not over before. Whether it has just failed. */
    private boolean tell(Job job) {
        @Nullable JobState before = told.put(job.name(), job.state());
        if (before == job.state() || (before == null && job.state().over())) {
            return false;
        }
        if (job.state().over()) {
            screen.print(job.message());
        } else if (job.state() != JobState.SCHEDULED) {
            screen.print(new JobScreen(screen.layout()).line(job));
        }
        return job.state() == JobState.FAILED;
    }
}
