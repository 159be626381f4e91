// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** How rows go, and whether those that are marked already are meant. */
final class ModeOptions {

    @Option(names = "--soft", description = "Mark the rows as deleted; they stay and can be restored.")
    private boolean soft;

    @Option(names = "--erase", description = "Remove the rows, whatever the table's usual mode is.")
    private boolean erase;

    @Option(names = "--no-archive", description = "Archive nothing of what is deleted.")
    private boolean noArchive;

    @Option(names = "--include-marked", description = "Select rows that are marked as deleted as well.")
    private boolean includeMarked;

    /** Refuses what cannot be meant, before any database is opened. */
    void check() {
        if (soft && erase) {
            throw new MisuseException("--soft and --erase contradict each other.", "Give one of them.");
        }
    }

    /** The operation on a table. */
    SelectionStep of(String table) {
        return soft ? Request.softDelete(table) : erase ? Request.erase(table) : Request.delete(table);
    }

    /** The mode that is said, or null for the table's usual one. */
    @Nullable
    Mode mode() {
        return soft ? Mode.SOFT_DELETE : erase ? Mode.ERASE : null;
    }

    Request in(Request request) {
        Request with = noArchive ? request.withoutArchive() : request;
        return includeMarked ? with.includingMarked() : with;
    }
}
