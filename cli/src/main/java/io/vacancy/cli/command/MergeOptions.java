// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.MergeStep;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** That the selected row is merged into another one. */
final class MergeOptions {

    @Option(
            names = "--merge-into",
            paramLabel = "K",
            description =
                    "Merge the one selected row into the row with this key, which gets all its child rows; rules of"
                            + " the rule book for child rows do not hold.")
    private @Nullable String into;

    @Option(
            names = "--delete-duplicates",
            paramLabel = "RELATION",
            description =
                    "With --merge-into: delete child rows of this relation that the row which stays has already, by a"
                            + " unique key; repeatable. They block otherwise.")
    private List<String> duplicates = new ArrayList<>();

    /** Refuses what cannot be meant, before any database is opened. */
    void check(ModeOptions mode) {
        if (into == null && !duplicates.isEmpty()) {
            throw new MisuseException(
                    "--delete-duplicates is for a merge, and none is asked for.", "Give --merge-into, too.");
        }
        if (into != null && mode.said() != null) {
            throw new MisuseException(
                    "--merge-into deletes the merged row in the table's usual mode.", "Leave " + mode.said() + " out.");
        }
    }

    boolean given() {
        return into != null;
    }

    Request in(MergeStep.Row row) {
        return row.deletingDuplicates(duplicates.toArray(String[]::new)).into(into == null ? "" : into);
    }
}
