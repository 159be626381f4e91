// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.advice.Proposal;
import io.vacancy.advice.Proposer;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.InitScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.rulebook.RuleBookDraft;
import io.vacancy.schema.Schema;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "init",
        description = "Looks at a database and writes a first rule book for it, with what is to be decided; changes"
                + " nothing, and overwrites nothing.")
final class InitCommand implements Callable<Integer> {

    private final Screen screen;

    @Option(
            names = "--to",
            paramLabel = "FILE",
            defaultValue = "vacancy.yaml",
            description = "The new file; vacancy.yaml in the current folder unless given, - for standard output.")
    private Path to = Path.of("vacancy.yaml");

    @Mixin
    private final ConnectionOptions database = new ConnectionOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    InitCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        boolean printed = to.toString().equals("-");
        if (!printed && Files.exists(to)) {
            throw exists();
        }
        Schema schema = JdbcStore.of(database.source()).schema();
        List<Proposal> proposals = Proposer.of(schema);
        String draft = RuleBookDraft.of(database.named(), schema, proposals);
        if (printed) {
            screen.printAll(draft.stripTrailing());
            return ExitCode.DONE;
        }
        write(draft);
        if (json) {
            screen.printAll(database.json().proposals(to.toString(), proposals));
            return ExitCode.DONE;
        }
        new InitScreen(output.layout(screen)).lines(to, schema, proposals).forEach(screen::print);
        screen.next("To see what each relation does by it:", NextStep.relations(database.given(), to));
        return ExitCode.DONE;
    }

    private void write(String draft) {
        try {
            Files.writeString(to, draft, StandardOpenOption.CREATE_NEW);
        } catch (FileAlreadyExistsException meanwhile) {
            throw exists();
        } catch (IOException failed) {
            throw new MisuseException(
                    "The rule book " + to + " cannot be written: " + FileTrouble.message(failed) + ".");
        }
    }

    private MisuseException exists() {
        return new MisuseException(to + " exists already, and init overwrites nothing.", "Give --to another name.");
    }
}
