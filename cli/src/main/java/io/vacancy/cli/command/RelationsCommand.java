// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.RelationsScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.diagram.RelationsDiagram;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "relations", description = "Lists tables, keys and relations, and the rule that holds on each.")
final class RelationsCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", arity = "0..1", paramLabel = "TABLE", description = "Only what depends on this table.")
    private @Nullable String table;

    @Option(
            names = "--depth",
            paramLabel = "N",
            description = "With a table: only so many levels below it; all of them unless given.")
    private @Nullable Integer depth;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Mixin
    private final DiagramFile diagram = new DiagramFile();

    RelationsCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        diagram.check();
        if (depth != null && (table == null || depth < 1)) {
            throw new MisuseException(
                    table == null ? "--depth counts from a table, and none is named." : "--depth must be 1 or more.",
                    "Write vacancy relations TABLE --depth 2.");
        }
        Vacancy vacancy = database.open(screen);
        Table only = table == null ? null : vacancy.schema().table(table);
        int levels = depth == null ? Integer.MAX_VALUE : depth;
        if (diagram.asked()) {
            Set<TableName> drawn = RelationsDiagram.tables(vacancy.rules(), only, levels);
            Map<TableName, Long> counts = screen.working(() -> vacancy.tables().counts(drawn));
            diagram.write(RelationsDiagram.of(vacancy.rules(), only, levels, counts), screen);
        }
        if (output.json()) {
            screen.printAll(database.json()
                    .relations(vacancy.rules(), only, vacancy.tables().advisor().indexes()));
            return ExitCode.DONE;
        }
        RelationsScreen relations = new RelationsScreen(vacancy, output.layout(screen));
        (only == null ? relations.all() : relations.of(only, levels)).forEach(screen::print);
        return ExitCode.DONE;
    }
}
