// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.CertificateScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.trail.Certificate;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(
        name = "certificate",
        description =
                "Says what was done when a person was forgotten, and what is left of it by now, without personal values.")
final class HistoryCertificateCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", paramLabel = "RECEIPT", description = "The receipt under which it was done.")
    private String receipt = "";

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    HistoryCertificateCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        ReceiptId id = ReceiptId.of(receipt);
        Vacancy vacancy = database.open(screen);
        Optional<Certificate> found = screen.working(() -> vacancy.persons().certificate(id));
        if (found.isEmpty()) {
            String told = "No person was forgotten under receipt " + id + ", as far as you may see.";
            if (json) {
                screen.printAll(database.json().error("nothing", told, null));
            } else {
                screen.tell(told);
            }
            return ExitCode.NOTHING;
        }
        if (json) {
            screen.printAll(database.json().write(found.get()));
            return ExitCode.DONE;
        }
        new CertificateScreen(output.layout(screen))
                .lines(found.get(), database.named())
                .forEach(screen::print);
        if (found.get().copies() > 0) {
            screen.next("To remove the copies for good:", NextStep.of(List.of("purge", id.value()), database.given()));
        }
        return ExitCode.DONE;
    }
}
