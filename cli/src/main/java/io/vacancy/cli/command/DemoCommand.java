// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.database.NamedDatabase;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.harbour.HarbourOffice;
import io.vacancy.jdbc.JdbcStore;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.ToIntFunction;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "demo", description = "Makes a harbour office's database and walks through the main job on it.")
final class DemoCommand implements Callable<Integer> {

    private final Screen screen;
    private final ToIntFunction<String[]> commands;

    @Option(
            names = "--at",
            paramLabel = "FILE",
            description = "Where to make the database; harbour.db, or the next free name, unless given.")
    private @Nullable Path at;

    DemoCommand(Screen screen, ToIntFunction<String[]> commands) {
        this.screen = screen;
        this.commands = commands;
    }

    @Override
    public Integer call() throws SQLException, IOException {
        Path file = file();
        Path book = ruleBook(file);
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
            connection.setAutoCommit(false);
            HarbourOffice.build(connection);
            connection.commit();
        }
        Files.writeString(book, HarbourOffice.ruleBook(), StandardOpenOption.CREATE_NEW);
        String db = file.toString();
        String rules = book.toString();
        title("A harbour office, made up throughout, in one SQLite file: " + db);
        screen.print("Boats lie at moorings; moorings have fees and power readings. Boats are inspected, keep a");
        screen.print("logbook, and yards work on them. Everything below is a command that you can repeat.");

        title("1. What depends on a boat? Shown before anything is deleted.");
        step("relations", "boat", "--db", db);

        title("2. What exactly would be deleted with boat 17? A preview counts it and changes nothing.");
        step("preview", "boat", "--key", "17", "--db", db);

        title(
                "3. A few tables of Vacancy's own, made once: what is erased from then on is archived there for some days.");
        step("setup", "--db", db);

        title("4. Delete it. The question says what a yes does, and a yes holds only for what was shown.");
        List<String> delete = new ArrayList<>(
                List.of("delete", "boat", "--key", "17", "--because", "sold to another harbour", "--db", db));
        if (!screen.terminal()) {
            screen.print("(There is no terminal here to ask at, so the demo answers by itself: --answer yes)");
            delete.addAll(List.of("--answer", "yes"));
        }
        boolean gone = step(delete.toArray(String[]::new)) == ExitCode.DONE;
        if (gone) {
            title("5. Look again: is it gone? \"Nothing selected\" is an ending of its own, exit code 3.");
        } else {
            title("5. You left it as it was. Look again: it is still there, and nothing was changed.");
        }
        step("preview", "boat", "--key", "17", "--db", db);

        ReceiptId receipt = gone ? archived(db) : null;
        if (receipt != null) {
            title("6. It was not sold after all. What is archived can be restored, asked like a deletion.");
            step("archive", "--rules", rules, "--db", db);
            step("restore", receipt.value(), "--yes", "--rules", rules, "--db", db);
        } else {
            title("6. What is deleted is archived, and can be restored. So far nothing is.");
            step("archive", "--rules", rules, "--db", db);
        }

        title("7. Boat 14 has inspections, and the schema protects them. Nothing is lost by silence: exit code 4.");
        step("delete", "boat", "--key", "14", "--db", db);

        title("8. It can be marked as having left, and stays: soft delete, as the rule book " + rules + " has it.");
        step("delete", "boat", "--key", "14", "--soft", "--yes", "--rules", rules, "--db", db);
        screen.print("");
        screen.print("Whoever looks for it now is told so, and it is restored as it was:");
        step("preview", "boat", "--key", "14", "--rules", rules, "--db", db);
        step("restore", "boat", "--key", "14", "--yes", "--rules", rules, "--db", db);

        title("9. A contract keeps its versions: one ends, and its successor begins, in one transaction.");
        step(
                "replace",
                "berth_contract",
                "--where",
                "contract_no = 2",
                "--set",
                "rent=790",
                "--from",
                "2030-01-01",
                "--by",
                "Jonas Reik",
                "--yes",
                "--rules",
                rules,
                "--db",
                db);

        title("10. Many at once: look at the rows of a condition, then ask for at most so many of them.");
        step("preview", "mooring", "--where", "left_on < DATE '2026-01-01'", "--rows", "--db", db);
        step("delete", "mooring", "--where", "left_on < DATE '2026-01-01'", "--at-most", "1", "--yes", "--db", db);

        title("11. Who did all that? The audit history, with what was refused as well; and what happened to boat 17.");
        step("history", "boat", "--key", "17", "--rules", rules, "--db", db);
        screen.print("");
        screen.print("Who and when are the same as in the application's own columns, which the rule book names:");
        step("history", "berth_contract", "--most", "1", "--rules", rules, "--db", db);
        step(
                "preview",
                "berth_contract",
                "--where",
                "contract_no = 2 AND rent = 790",
                "--rows",
                "--rules",
                rules,
                "--db",
                db);
        screen.print("");
        screen.print("The entries are sealed, one after the other. Whoever changes one is found out:");
        step("history", "verify", "--rules", rules, "--db", db);

        title("Yours to try");
        suggest("A skipper who still has boats:", "delete skipper --key 2 --db " + db);
        suggest("A question that requires more than a yes:", "delete fee --every-row --db " + db);
        suggest("What is worth mending:", "check --rules " + rules + " --db " + db);
        suggest(
                "A boat that cannot be erased while it is held:",
                "archive hold boat --key 14 --because 'case 7' --db " + db);
        suggest("Everything that was done, newest first:", "history --rules " + rules + " --db " + db);
        suggest(
                "And on a database of your own, where this changes nothing either:",
                "init --db jdbc:postgresql://HOST/NAME");
        return ExitCode.DONE;
    }

    /** The receipt of what can be restored, or null where nothing was deleted. */
    private @Nullable ReceiptId archived(String db) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(NamedDatabase.open(db, null, null, List.of())))
                .actor(() -> "the demo")
                .open();
        try (Stream<ArchivedRows> kept = vacancy.archive().rows(ArchiveQuery.all())) {
            return kept.findFirst().map(ArchivedRows::receipt).orElse(null);
        }
    }

    private Path file() {
        if (at != null) {
            if (Files.exists(at)) {
                throw new MisuseException(
                        at + " exists already, and the demo overwrites nothing.", "Give --at a new name.");
            }
            Path folder = at.toAbsolutePath().getParent();
            if (folder != null && !Files.isDirectory(folder)) {
                throw new MisuseException("The folder " + folder + " does not exist.", "Make it first.");
            }
            if (Files.exists(ruleBook(at))) {
                throw new MisuseException(
                        ruleBook(at) + " exists already, where the demo would write its rule book, and it overwrites"
                                + " nothing.",
                        "Give --at another name.");
            }
            return at;
        }
        Path file = Path.of("harbour.db");
        for (int number = 2; Files.exists(file) || Files.exists(ruleBook(file)); number++) {
            file = Path.of("harbour-" + number + ".db");
        }
        return file;
    }

    /** Beside the database, under the same name. */
    private static Path ruleBook(Path file) {
        String name = file.getFileName().toString();
        int dot = name.lastIndexOf('.');
        return file.resolveSibling((dot > 0 ? name.substring(0, dot) : name) + ".yaml");
    }

    private void suggest(String what, String command) {
        screen.print("  " + screen.style().aside(what));
        screen.print("    " + screen.style().command("vacancy " + command));
    }

    private void title(String title) {
        screen.print("");
        screen.print(screen.style().heading(title));
    }

    private int step(String... words) {
        StringBuilder line = new StringBuilder("$ vacancy");
        for (String word : words) {
            line.append(' ').append(word.matches("[\\w./=-]+") ? word : "\"" + word + "\"");
        }
        screen.print(screen.style().command(line.toString()));
        return commands.applyAsInt(words);
    }
}
