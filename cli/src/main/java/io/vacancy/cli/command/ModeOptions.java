package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import picocli.CommandLine.Option;

/** How rows go, and whether those that are marked already are meant. */
final class ModeOptions {

    @Option(names = "--soft", description = "Mark the rows as deleted; they stay and can be brought back.")
    private boolean soft;

    @Option(names = "--erase", description = "Remove the rows, whatever the table's usual mode is.")
    private boolean erase;

    @Option(names = "--no-archive", description = "Keep no image of what goes.")
    private boolean noArchive;

    @Option(names = "--with-marked", description = "Select rows that are marked as deleted as well.")
    private boolean withMarked;

    /** Refuses what cannot be meant, before any database is opened. */
    void check() {
        if (soft && erase) {
            throw new MisuseException("--soft and --erase contradict each other.", "Give one of them.");
        }
    }

    Request in(Request request) {
        Request going = soft ? request.soft() : erase ? request.erase() : request;
        going = noArchive ? going.withoutArchive() : going;
        return withMarked ? going.withMarked() : going;
    }
}
