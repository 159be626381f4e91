// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.cli.screen.TextLayout;
import io.vacancy.failure.MisuseException;
import picocli.CommandLine.Option;

/** How the result is written. */
class OutputOptions {

    enum Format {
        text,
        json,
        jsonl,
        csv
    }

    @Option(
            names = "--format",
            paramLabel = "FORMAT",
            defaultValue = "text",
            description = "text for people (the default), or json: one document on standard output. Where rows are"
                    + " listed, also jsonl, an object a line, or csv.")
    private Format format = Format.text;

    @Option(
            names = "--uncut",
            description = "Show values as long as they are; without it long ones end in … where rows are listed.")
    private boolean uncut;

    /** Into what the result is set. */
    TextLayout layout(Screen screen) {
        return screen.layout().uncut(uncut);
    }

    boolean json() {
        if (format == Format.jsonl || format == Format.csv) {
            throw new MisuseException(
                    "--format " + format + " is for lists of rows, and none is asked for.",
                    "Give --format json for a document.");
        }
        return format == Format.json;
    }

    /** The format of a list of rows. */
    Format ofRows() {
        return format;
    }
}
