// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.internal.text.VisibleText;
import io.vacancy.listener.Cancellation;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Where a command reads and writes: results on the standard output, messages for people on the standard
 * error, questions only where somebody sits at a terminal.
 */
public final class Screen {

    /** Of a terminal of which nobody says how wide it is. */
    private static final int USUAL_WIDTH = 100;

    private final PrintStream out;
    private final PrintStream err;
    private final BufferedReader in;
    private final boolean terminal;
    private final TextLayout layout;
    private final AnsiStyle style;
    private final ProgressLine progress = new ProgressLine(this);
    private final Interruption interruption;

    /** @param width of the terminal, in columns */
    public Screen(InputStream in, PrintStream out, PrintStream err, boolean terminal, boolean colour, int width) {
        this(in, out, err, terminal, new TextLayout(new AnsiStyle(colour), width, false), new Interruption());
    }

    private Screen(
            InputStream in,
            PrintStream out,
            PrintStream err,
            boolean terminal,
            TextLayout layout,
            Interruption interruption) {
        this.in = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8));
        this.out = out;
        this.err = err;
        this.terminal = terminal;
        this.layout = layout;
        this.style = layout.style();
        this.interruption = interruption;
    }

    /** The process's own streams; colour on a terminal unless NO_COLOR is set (no-color.org). */
    public static Screen ofProcess() {
        boolean console = System.console() != null;
        // Java knows of a terminal only where output goes there, too; whoever starts it may know better.
        boolean terminal = console || Boolean.getBoolean("vacancy.terminal");
        String noColour = System.getenv("NO_COLOR");
        boolean colour = console && (noColour == null || noColour.isEmpty()) && !"dumb".equals(System.getenv("TERM"));
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        PrintStream err = new PrintStream(System.err, true, StandardCharsets.UTF_8);
        // What goes into a file is not cut, though whoever sits at the terminal is asked there.
        boolean seen = console || Integer.getInteger("vacancy.columns") != null;
        TextLayout layout = new TextLayout(new AnsiStyle(colour), seen ? columns() : TextLayout.UNLIMITED, false);
        return new Screen(System.in, out, err, terminal, layout, Interruption.ofProcess());
    }

    /** How wide the terminal is, as whoever starts the process says, or the shell does. */
    private static int columns() {
        Integer said = Integer.getInteger("vacancy.columns");
        if (said != null && said > 0) {
            return said;
        }
        String shell = System.getenv("COLUMNS");
        return shell != null && shell.matches("[1-9]\\d{0,3}") ? Integer.parseInt(shell) : USUAL_WIDTH;
    }

    /** Into what results are set. */
    public TextLayout layout() {
        return layout;
    }

    public AnsiStyle style() {
        return style;
    }

    /** Draws how far the work is. */
    public ProgressLine progress() {
        return progress;
    }

    /** By which Ctrl-C has the work given up. */
    public Cancellation cancellation() {
        return interruption.cancellation();
    }

    /** Does work that may take long and may be given up. */
    public <T> T working(Supplier<T> work) {
        try {
            return interruption.during(work);
        } finally {
            progress.clear();
        }
    }

    /** Everything has been told; the process may end. */
    public void over() {
        interruption.over();
    }

    /** Whether somebody can be asked. */
    public boolean terminal() {
        return terminal;
    }

    public PrintStream out() {
        return out;
    }

    public PrintStream err() {
        return err;
    }

    /** A line of the result; broken between words where it is longer than the terminal is wide. */
    public void print(String line) {
        layout.lines(line).forEach(part -> out.println(style.rendered(part, VisibleText::line)));
    }

    /** A result of several lines that are the tool's own, such as a document or a statement. */
    public void printAll(String lines) {
        out.println(style.rendered(lines, VisibleText::lines));
    }

    /** The command that mostly follows, on a line of its own, to be copied. */
    public void next(String what, String command) {
        print("");
        print(style.quiet(what));
        print("  " + style.command(command));
    }

    /** A line for the person at the terminal, kept out of the result; broken between words where it is long. */
    public void tell(String line) {
        err.println(style.rendered(layout.wrapped(line), VisibleText::lines));
    }

    /** A line at the terminal that the next one is written over; an empty one takes it away. */
    public void status(String line) {
        err.print("\r\033[2K" + style.rendered(line, VisibleText::line));
        err.flush();
    }

    /**
     * Asks for a line before anything is done, and returns it, or null at the end of input. Whoever ends the process instead is
     * told that nothing was changed. What was typed before the question was there is no
     * answer to it, and is thrown away.
     */
    public @Nullable String ask(String prompt) {
        try {
            while (in.ready()) {
                in.readLine();
            }
            err.print(style.rendered(layout.wrapped(prompt), VisibleText::lines));
            err.flush();
            return interruption.<@Nullable String>whileAsking(in::readLine, () -> {
                err.println();
                err.println("Nothing was changed.");
            });
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
