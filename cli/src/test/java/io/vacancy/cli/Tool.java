// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import io.vacancy.cli.command.VacancyCommand;
import io.vacancy.cli.screen.Screen;
import io.vacancy.cli.screen.TextLayout;
import io.vacancy.harbour.HarbourOffice;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/** Runs the tool on a harbour of its own: as a process of its own, or with somebody at a terminal. */
record Tool(Path folder) {

    record Result(int exit, String out, String err) {}

    static Tool onHarbourIn(Path folder) throws SQLException {
        Tool tool = new Tool(folder);
        try (Connection connection = tool.connect()) {
            HarbourOffice.build(connection);
        }
        return tool;
    }

    Connection connect() throws SQLException {
        return DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("harbour.db"));
    }

    private static final List<String> FILES = List.of(
            "--db",
            "--rules",
            "--keys-from",
            "--save-to",
            "--records-to",
            "--data-to",
            "--diagram",
            "--from",
            "--head-file",
            "--to",
            "--driver",
            "--person-keys",
            "--at");

    /** Without a terminal, as if in the harbour's folder: in this process, which takes a tenth of the time of another one. */
    Result run(String... words) throws IOException, InterruptedException {
        if (words.length == 0 || words[0].equals("demo") || List.of(words).contains("-")) {
            return process(words);
        }
        List<String> all = new ArrayList<>();
        for (String word : words) {
            boolean file = !all.isEmpty() && FILES.contains(all.get(all.size() - 1)) && !word.startsWith("jdbc:");
            all.add(file && !word.equals("-") ? folder.resolve(word).toString() : word);
        }
        Path rules = folder.resolve("vacancy.yaml");
        if (Files.exists(rules) && all.contains("--db") && !all.contains("--rules")) {
            all.addAll(List.of("--rules", rules.toString()));
        }
        return run((Path) null, all.toArray(String[]::new));
    }

    /** The same on the harbour's database. */
    Result onHarbour(String... words) throws IOException, InterruptedException {
        List<String> all = new ArrayList<>(List.of(words));
        all.addAll(List.of("--db", "harbour.db"));
        return run(all.toArray(String[]::new));
    }

    /** In this process with the settings of a file; the words as they are. */
    static Result run(@Nullable Path settings, String... words) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        Screen screen = new Screen(
                InputStream.nullInputStream(),
                new PrintStream(out, true, StandardCharsets.UTF_8),
                new PrintStream(err, true, StandardCharsets.UTF_8),
                false,
                false,
                TextLayout.UNLIMITED);
        int exit = VacancyCommand.run(screen, settings, words);
        return new Result(exit, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    /** A process of its own without a terminal, in the harbour's folder. */
    Result process(String... words) throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                "io.vacancy.cli.Main"));
        command.addAll(List.of(words));
        Path out = Files.createTempFile("out", ".txt");
        Path err = Files.createTempFile("err", ".txt");
        Process process = new ProcessBuilder(command)
                .directory(folder.toFile())
                .redirectOutput(out.toFile())
                .redirectError(err.toFile())
                .start();
        process.getOutputStream().close();
        if (!process.waitFor(60, TimeUnit.SECONDS)) {
            process.destroyForcibly();
            throw new IllegalStateException("the tool did not end: " + command);
        }
        return new Result(process.exitValue(), Files.readString(out), Files.readString(err));
    }

    /** In this process, with somebody at a terminal who types these lines. */
    Result atTerminal(String typed, String... words) {
        return atTerminal(new TypedWhenAsked(typed), words);
    }

    /** The same with what comes from the keyboard, whenever it does. */
    Result atTerminal(InputStream keyboard, String... words) {
        return atTerminal(110, keyboard, words);
    }

    /** The same on a terminal of so many columns. */
    Result atTerminal(int width, InputStream keyboard, String... words) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        Screen screen = new Screen(
                keyboard,
                new PrintStream(out, true, StandardCharsets.UTF_8),
                new PrintStream(err, true, StandardCharsets.UTF_8),
                true,
                false,
                width);
        int exit = VacancyCommand.run(screen, words);
        return new Result(exit, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    String db() {
        return folder.resolve("harbour.db").toString();
    }

    long count(String what) throws SQLException {
        try (Connection connection = connect();
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("SELECT COUNT(*) FROM " + what)) {
            return rows.getLong(1);
        }
    }

    void execute(String sql) throws SQLException {
        try (Connection connection = connect();
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
