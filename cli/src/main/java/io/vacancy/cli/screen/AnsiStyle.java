// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

/** Colour and weight for a terminal that shows them; plain text everywhere else. */
public final class AnsiStyle {

    private final boolean on;

    public AnsiStyle(boolean on) {
        this.on = on;
    }

    /** For the title of a part. */
    public String heading(String text) {
        return style("1;4", text);
    }

    /** For a command that the reader may type. */
    public String command(String text) {
        return style("36", text);
    }

    /** For what is wrong. */
    public String problem(String text) {
        return standing(text);
    }

    /** For what is said besides. */
    public String aside(String text) {
        return quiet(text);
    }

    public String strong(String text) {
        return style("1", text);
    }

    String quiet(String text) {
        return style("2", text);
    }

    /** For rows that go. */
    String leaving(String text) {
        return style("33", text);
    }

    /** For what stands in the way. */
    String standing(String text) {
        return style("1;35", text);
    }

    /** For what was done. */
    public String settled(String text) {
        return style("36", text);
    }

    private String style(String code, String text) {
        return on ? "\033[" + code + "m" + text + "\033[0m" : text;
    }
}
