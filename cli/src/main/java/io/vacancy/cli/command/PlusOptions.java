// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Option;

/** Rows of further tables in the same request. */
final class PlusOptions {

    @Option(
            names = "--plus",
            paramLabel = "TABLE: CONDITION",
            description = "Rows of another table as well, as in \"fee: id = 708\": one preview, one question, one"
                    + " receipt, and all of it is done or nothing; repeatable.")
    private List<String> plus = new ArrayList<>();

    /** Refuses what cannot be meant, before any database is opened. */
    void check(SelectionOptions selection, ModeOptions mode, MergeOptions merge) {
        if (plus.isEmpty()) {
            return;
        }
        String other = merge.given() ? "--merge-into merges one row" : mode.otherThanDeleting();
        if (other != null || selection.atOnce()) {
            throw new MisuseException(
                    "--plus is for what is deleted with its rules, and "
                            + (other == null ? "--at-once empties a table" : other) + ".",
                    "Leave one of them out.");
        }
        if (selection.skips()) {
            throw new MisuseException(
                    "--plus deletes rows of several tables together, and --on-blocked skip would leave some out.",
                    "Leave one of them out.");
        }
        plus.forEach(PlusOptions::colon);
    }

    /** Refuses it where a job is ordered. */
    void checkForJob() {
        if (!plus.isEmpty()) {
            throw new MisuseException(
                    "A job divides the rows of one table, and --plus adds rows of another one.",
                    "Delete them without a job, or order a job for each of the tables.");
        }
    }

    private static int colon(String written) {
        int colon = written.indexOf(':');
        if (colon < 1
                || written.substring(0, colon).isBlank()
                || written.substring(colon + 1).isBlank()) {
            throw new MisuseException(
                    "--plus \"" + written + "\" does not say which rows of which table.",
                    "Write --plus \"fee: id = 708\".");
        }
        return colon;
    }

    /** A request with them. */
    Request in(Request request, ModeOptions mode) {
        Request whole = request;
        for (String written : plus) {
            int colon = colon(written);
            whole = whole.plus(mode.of(written.substring(0, colon).strip())
                    .where(SelectionOptions.condition(
                            written.substring(colon + 1).strip())));
        }
        return whole;
    }
}
