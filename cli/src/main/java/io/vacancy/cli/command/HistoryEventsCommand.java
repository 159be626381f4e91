// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Outbox;
import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.trail.OutboxEvent;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "events",
        description =
                "Prints the events of the outbox that were not passed on yet, one JSON document (CloudEvents 1.0) a"
                        + " line, and notes that they were.")
final class HistoryEventsCommand implements Callable<Integer> {

    private static final int ALL = Integer.MAX_VALUE;

    private final Screen screen;

    @Option(names = "--most", paramLabel = "N", description = "Pass on at most so many; all unless given.")
    private int most = ALL;

    @Option(names = "--look", description = "Print them, at most 100 unless --most says otherwise, and note nothing.")
    private boolean look;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    HistoryEventsCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Vacancy vacancy = database.open(screen);
        Outbox outbox = vacancy.outbox();
        if (look) {
            List<OutboxEvent> waiting = outbox.waiting(most == ALL ? 100 : most);
            waiting.forEach(event -> screen.printAll(event.content()));
            return told(waiting.size(), waiting.size() + " wait to be passed on.", vacancy);
        }
        int passed = screen.working(() -> outbox.passOn(most, this::print));
        return told(passed, passed + " passed on.", vacancy);
    }

    private void print(OutboxEvent event) {
        screen.printAll(event.content());
        if (screen.out().checkError()) {
            throw new MisuseException("Nobody reads the events any more; those that were not read come again.");
        }
    }

    private int told(int events, String words, Vacancy vacancy) {
        if (events > 0) {
            screen.tell(words);
            return ExitCode.DONE;
        }
        screen.tell(
                vacancy.rules().outbox() == null
                        ? "The outbox is empty, and the rule book names no source for events (outbox: /my/application)."
                        : "The outbox is empty.");
        return ExitCode.NOTHING;
    }
}
