// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Writes the pages of the manual. */
@Command(name = "manual", description = "Writes the manual pages of all commands into a folder, for man to find.")
final class SetupManualCommand implements Callable<Integer> {

    private final Screen screen;

    @Option(
            names = "--to",
            paramLabel = "FOLDER",
            defaultValue = "man/man1",
            description = "The folder, made where it is not there; man/man1 in the current one unless given. Pages that"
                    + " are there are written over.")
    private Path to = Path.of("man/man1");

    SetupManualCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Map<String, String> pages =
                ManualPage.all(CommandText.all(VacancyCommand.described(screen)), ToolVersion.number());
        try {
            Files.createDirectories(to);
            for (Map.Entry<String, String> page : pages.entrySet()) {
                Files.writeString(to.resolve(page.getKey()), page.getValue());
            }
        } catch (IOException failed) {
            throw new MisuseException(
                    "The manual cannot be written to " + to + ": " + FileTrouble.message(failed) + ".",
                    "Give --to a folder that can be written to.");
        }
        screen.print(pages.size() + " pages were written to " + to + ".");
        Path above = to.toAbsolutePath().getParent();
        if (above != null && to.endsWith("man1")) {
            screen.next("To read one:", "man -M " + above + " vacancy");
        }
        return ExitCode.DONE;
    }
}
