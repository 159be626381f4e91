package io.vacancy.cli.command;

import picocli.CommandLine.Option;

/** How the result is written. */
final class OutputOptions {

    enum Format {
        text,
        json
    }

    @Option(
            names = "--format",
            paramLabel = "FORMAT",
            defaultValue = "text",
            description = "text for people (the default), or json: one document on standard output.")
    private Format format = Format.text;

    boolean json() {
        return format == Format.json;
    }
}
