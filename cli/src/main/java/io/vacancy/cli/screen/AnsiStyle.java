// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.security.SecureRandom;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Colour and weight for a terminal that shows them; plain text everywhere else. */
public final class AnsiStyle {

    /** A space at which no line is broken; a character of no text. */
    private static final char UNBROKEN = '\ufdd2';

    /** What no text can know that was there before the process, so that nothing but this class makes colours. */
    private final String mark;

    private final Pattern marked;
    private final boolean on;

    public AnsiStyle(boolean on) {
        this.on = on;
        // Random bytes take a good part of the start, so they are drawn only where there is something to mark.
        this.mark = on ? "\ufdd0" + Long.toHexString(new SecureRandom().nextLong()) + "\ufdd1" : "";
        this.marked = Pattern.compile(mark + "([0-9;]+)m");
    }

    /** For the title of a part. */
    public String heading(String text) {
        return style("1;4", text);
    }

    /** For a command or a statement that the reader may copy: it is never broken. */
    public String command(String text) {
        return style("36", text.replace(' ', UNBROKEN));
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
        return on ? mark + code + "m" + text + mark + "0m" : text;
    }

    /** As a terminal wants it: the styles of this class, and nothing else that acts. */
    String rendered(String styled, UnaryOperator<String> cleaned) {
        String text = styled.replace(UNBROKEN, ' ');
        if (!on) {
            return cleaned.apply(text);
        }
        StringBuilder rendered = new StringBuilder();
        Matcher styles = marked.matcher(text);
        int from = 0;
        while (styles.find()) {
            rendered.append(cleaned.apply(text.substring(from, styles.start())))
                    .append("\033[")
                    .append(styles.group(1))
                    .append('m');
            from = styles.end();
        }
        return rendered.append(cleaned.apply(text.substring(from))).toString();
    }

    /** Without styles. */
    String plain(String text) {
        return on ? marked.matcher(text).replaceAll("") : text;
    }
}
