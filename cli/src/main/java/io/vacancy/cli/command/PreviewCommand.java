package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.PreviewScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.text.json.JsonWriter;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "preview", description = "Shows what deleting rows would do; changes nothing.")
final class PreviewCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    PreviewCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Request request = selection.request();
        Vacancy vacancy = database.open(null);
        Preview preview = vacancy.preview(request);
        if (output.json()) {
            screen.print(new JsonWriter().write(preview));
        } else {
            new PreviewScreen(vacancy, screen.ink()).lines(preview).forEach(screen::print);
        }
        return ExitCode.of(preview);
    }
}
