package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.RelationsScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.schema.Table;
import io.vacancy.text.json.JsonWriter;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "relations", description = "Lists tables, keys and relations, and the rule that holds on each.")
final class RelationsCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", arity = "0..1", paramLabel = "TABLE", description = "Only what hangs on this table.")
    private @Nullable String table;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    RelationsCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Vacancy vacancy = database.open(null, screen);
        Table only = table == null ? null : vacancy.schema().table(table);
        if (output.json()) {
            screen.print(new JsonWriter().relations(vacancy.rules(), only));
            return ExitCode.DONE;
        }
        RelationsScreen relations = new RelationsScreen(vacancy, screen.ink());
        (only == null ? relations.all() : relations.of(only)).forEach(screen::print);
        return ExitCode.DONE;
    }
}
