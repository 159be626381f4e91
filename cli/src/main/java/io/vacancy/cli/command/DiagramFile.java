// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.diagram.Diagram;
import io.vacancy.diagram.Drawing;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** Where a diagram is written to, if one is asked for. */
final class DiagramFile {

    @Option(
            names = "--diagram",
            paramLabel = "FILE",
            description = "Draw it into this file: .svg, .html for a page, or .mmd for Mermaid text. A file that is"
                    + " there already is replaced.")
    private @Nullable Path file;

    private @Nullable Drawing form;

    /** Tells a name that cannot be drawn into before anything is read. */
    void check() {
        if (file != null) {
            form = Drawing.named(file.toString());
        }
    }

    boolean asked() {
        return form != null;
    }

    void write(Diagram diagram, Screen screen) {
        if (form == null || file == null) {
            return;
        }
        String drawn = form.of(diagram);
        try {
            // In one step, and in the place of a link rather than through it.
            Path written = Files.createTempFile(file.toAbsolutePath().getParent(), file.getFileName() + ".", ".part");
            Files.writeString(written, drawn);
            Files.move(written, file, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException failed) {
            throw new MisuseException(
                    "The diagram cannot be written to " + file + ": " + FileTrouble.message(failed) + ".",
                    "Give a file in a folder that is there and may be written to.");
        }
        screen.tell("Drawn into " + file + ".");
    }
}
