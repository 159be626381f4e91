// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.question.QuestionId;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** What is decided of something that somebody else has asked for. */
final class ApprovalOptions {

    @Option(
            names = "--approve",
            paramLabel = "ID",
            description =
                    "In the place of a table: show what somebody else has asked for, which waits for an approval, ask, and"
                            + " carry it out on their account; preview --waiting lists what waits.")
    private @Nullable String approve;

    @Option(
            names = "--decline",
            paramLabel = "ID",
            description = "In the place of a table: decline what somebody else has asked for.")
    private @Nullable String decline;

    boolean given() {
        return approve != null || decline != null;
    }

    /** Whether it is approved and not declined. */
    boolean approves() {
        return approve != null;
    }

    /** Refuses what cannot be meant, before any database is opened. */
    void check(SelectionOptions selection, @Nullable String further) {
        List<String> with = new ArrayList<>();
        if (approve != null && decline != null) {
            with.add("--decline");
        }
        if (selection.given()) {
            with.add("a table or a selection");
        }
        if (further != null) {
            with.add(further);
        }
        if (!with.isEmpty()) {
            throw new MisuseException(
                    (approve != null ? "--approve" : "--decline") + " decides of what was asked for as it is, and "
                            + String.join(" and ", with) + (with.size() == 1 ? " is" : " are") + " given as well.",
                    "Leave " + (with.size() == 1 ? "it" : "them") + " out.");
        }
        id();
    }

    QuestionId id() {
        String written = approve != null ? approve : String.valueOf(decline);
        if (!QuestionId.fits(written)) {
            throw new MisuseException(
                    "\"" + written + "\" names nothing that waits.", "Write what vacancy preview --waiting lists.");
        }
        return new QuestionId(written);
    }
}
