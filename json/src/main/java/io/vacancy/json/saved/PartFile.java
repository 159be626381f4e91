// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.saved;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/** A new file that has .part behind its name until it is complete. Overwrites nothing. */
public final class PartFile {

    private final Path file;
    private final Path part;

    /**
     * @param file where it will be
     * @throws MisuseException if there is something already
     */
    public PartFile(Path file) {
        if (Files.exists(Arguments.notNull(file, "file"))) {
            throw new MisuseException(file + " exists already, and nothing is overwritten.", "Give another name.");
        }
        this.file = file;
        this.part = file.resolveSibling(file.getFileName() + ".part");
    }

    /** Where it is written. */
    public Path part() {
        return part;
    }

    /** Gives it its name. */
    public void complete() {
        try {
            if (Files.exists(file)) {
                throw new IOException("another file has the name by now");
            }
            Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException failed) {
            throw new UncheckedIOException(
                    "the file " + file + " could not be renamed, it is " + part.getFileName() + ": "
                            + failed.getMessage(),
                    failed);
        }
    }

    /** Removes what was written. */
    public void discard() {
        try {
            Files.deleteIfExists(part);
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + part + " could not be removed", failed);
        }
    }
}
