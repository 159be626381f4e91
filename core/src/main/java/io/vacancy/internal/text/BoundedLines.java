// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.text;

import java.io.IOException;
import java.io.Reader;
import org.jspecify.annotations.Nullable;

/** Reads a text line by line, none of them longer than a limit: a file from outside must not fill the memory. */
public final class BoundedLines {

    private final Reader text;
    private final int longest;
    private int ahead = -2;

    /** @param longest the most characters of a line */
    public BoundedLines(Reader text, int longest) {
        this.text = text;
        this.longest = longest;
    }

    /** A line is longer than the limit. */
    public static final class TooLongException extends IOException {

        private static final long serialVersionUID = 1L;

        TooLongException(int longest) {
            super("a line has more than " + longest + " characters");
        }
    }

    /** The next line without its end; null after the last one. */
    public @Nullable String next() throws IOException {
        StringBuilder line = new StringBuilder();
        int c = ahead == -2 ? text.read() : ahead;
        ahead = -2;
        if (c < 0) {
            ahead = -1;
            return null;
        }
        for (; c >= 0 && c != '\n' && c != '\r'; c = text.read()) {
            if (line.length() == longest) {
                throw new TooLongException(longest);
            }
            line.append((char) c);
        }
        if (c == '\r') {
            ahead = text.read();
            if (ahead == '\n') {
                ahead = -2;
            }
        } else if (c < 0) {
            ahead = -1;
        }
        return line.toString();
    }
}
