// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.access.ColumnScope;
import io.vacancy.access.Scope;
import io.vacancy.failure.MisuseException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** Which rows are there for the one who asks. */
final class ScopeOptions {

    @Option(
            names = "--scope",
            paramLabel = "COLUMN=VALUE",
            description =
                    "Work as somebody who may see and touch only rows with this value, such as one tenant's. Tables"
                            + " without the column are closed, unless one of the next two options is given for them.")
    private @Nullable String scope;

    @Option(
            names = "--scope-through",
            paramLabel = "RELATION[/RELATION...]",
            description = "By which relations the rows of a table without the column belong to one that has it:"
                    + " power_reading.mooring_id/mooring.boat_id; repeatable.")
    private List<String> through = new ArrayList<>();

    @Option(names = "--scope-open", paramLabel = "TABLE", description = "A table that all share; repeatable.")
    private List<String> open = new ArrayList<>();

    /** The scope that is given, or null. */
    @Nullable
    Scope given() {
        if (scope == null) {
            if (!through.isEmpty() || !open.isEmpty()) {
                throw new MisuseException(
                        "--scope-through and --scope-open say more of a scope, and --scope names none.",
                        "Give --scope COLUMN=VALUE.");
            }
            return null;
        }
        int equals = scope.indexOf('=');
        if (equals < 1) {
            throw new MisuseException(
                    "\"" + scope + "\" is no scope.", "Give a column and its value, such as --scope harbour_id=7.");
        }
        ColumnScope given = Scope.where(scope.substring(0, equals), scope.substring(equals + 1));
        for (String path : through) {
            given = given.through(path.split("/"));
        }
        return open.isEmpty() ? given : given.open(open.toArray(String[]::new));
    }
}
