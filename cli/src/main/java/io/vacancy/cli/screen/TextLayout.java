// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * Into what text is set: how wide the terminal is, what colours it has, and whether values are cut where they are long.
 *
 * @param style colours and weights
 * @param width in columns; {@link #UNLIMITED} where nobody sees lines, such as in a file
 * @param uncut whether values are shown as long as they are
 */
public record TextLayout(AnsiStyle style, int width, boolean uncut) {

    /** No line is too long. */
    public static final int UNLIMITED = Integer.MAX_VALUE;

    /** The narrowest that text is set for; on anything narrower lines are broken by the terminal. */
    static final int NARROWEST = 60;

    public TextLayout {
        width = Math.max(width, NARROWEST);
    }

    /** The same with values as long as they are. */
    public TextLayout uncut(boolean whole) {
        return new TextLayout(style, width, whole);
    }

    /**
     * Breaks a line between words. What goes on stands as far to the right as it began; a word that is longer than the
     * width, such as a path, has a line of its own. A line break within it is none, but a character of some value.
     */
    List<String> lines(String line) {
        return wrapped(line, width);
    }

    /** The same for a text of several lines. */
    String wrapped(String text) {
        return Stream.of(text.split("\n", -1))
                .flatMap(line -> lines(line).stream())
                .collect(Collectors.joining("\n"));
    }

    /** A text beside a word of its own: what goes on stands under where it began. */
    public List<String> hanging(String word, String text) {
        int indent = DisplayWidth.of(style.plain(word));
        List<String> parts = wrapped(text, width - indent);
        return IntStream.range(0, parts.size())
                .mapToObj(i -> (i == 0 ? word : " ".repeat(indent)) + parts.get(i))
                .toList();
    }

    /** The lines of a text that is broken between words. */
    List<String> wrapped(String text, int room) {
        String plain = style.plain(text);
        if (DisplayWidth.of(plain) <= room) {
            return List.of(text);
        }
        String indent = plain.substring(0, plain.length() - plain.stripLeading().length());
        List<String> lines = new ArrayList<>();
        StringBuilder line = new StringBuilder();
        int taken = 0;
        for (String word : text.strip().split(" ")) {
            int width = DisplayWidth.of(style.plain(word));
            if (taken > 0 && indent.length() + taken + 1 + width > room) {
                lines.add(indent + line);
                line.setLength(0);
                taken = 0;
            }
            line.append(taken == 0 ? "" : " ").append(word);
            taken += width + (taken == 0 ? 0 : 1);
        }
        lines.add(indent + line + text.substring(text.stripTrailing().length()));
        return lines;
    }
}
