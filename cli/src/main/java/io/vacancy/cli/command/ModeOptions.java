// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** How rows go, or that they stay and are blanked, and whether those that are marked already are meant. */
final class ModeOptions {

    @Option(names = "--soft", description = "Mark the rows as deleted; they stay and can be restored.")
    private boolean soft;

    @Option(names = "--erase", description = "Remove the rows, whatever the table's usual mode is.")
    private boolean erase;

    @Option(
            names = "--blank",
            description =
                    "Keep the rows, and empty or replace what is personal in them, as the rule book says of the table.")
    private boolean blank;

    @Option(
            names = "--forget",
            description =
                    "Forget one person: the row, and everything that belongs to it, is erased, blanked or kept, as the"
                            + " rule book says of each table.")
    private boolean forget;

    @Option(names = "--no-archive", description = "Archive nothing of what is deleted.")
    private boolean noArchive;

    @Option(names = "--include-marked", description = "Select rows that are marked as deleted as well.")
    private boolean includeMarked;

    /** Refuses what cannot be meant, before any database is opened. */
    void check() {
        List<String> given = given();
        if (given.size() > 1) {
            throw new MisuseException(String.join(" and ", given) + " contradict each other.", "Give one of them.");
        }
    }

    /** Refuses what no job does. */
    void checkForJob() {
        String other = otherThanDeleting();
        if (other != null) {
            throw new MisuseException(
                    "A job deletes rows batch by batch, and " + other + ".",
                    "Use vacancy delete, which does it in one transaction.");
        }
    }

    /** What is done in the place of a deletion, to stand behind "and"; null where rows are deleted. */
    @Nullable
    String otherThanDeleting() {
        return blank ? "--blank keeps the rows" : forget ? "--forget is for one person" : null;
    }

    private List<String> given() {
        List<String> given = new ArrayList<>();
        if (soft) {
            given.add("--soft");
        }
        if (erase) {
            given.add("--erase");
        }
        if (blank) {
            given.add("--blank");
        }
        if (forget) {
            given.add("--forget");
        }
        return given;
    }

    /** The option that says what is done to the rows; null where the rule book says it. */
    @Nullable
    String said() {
        return given().isEmpty() ? null : given().get(0);
    }

    /** Whether one person is forgotten. */
    boolean forgets() {
        return forget;
    }

    /** The operation on a table. */
    SelectionStep of(String table) {
        if (blank) {
            return Request.blank(table);
        }
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
