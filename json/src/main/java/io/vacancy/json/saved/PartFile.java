// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.saved;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/**
 * A new file that is written under a name of its own, which ends in .part, until it is complete. It is made anew each time,
 * for its owner alone where the system knows owners, never through a link, and overwrites nothing.
 */
public final class PartFile {

    private final Path file;
    private @Nullable Path part;

    /**
     * @param file where it will be
     * @throws MisuseException if there is something already, be it a link that leads nowhere
     */
    public PartFile(Path file) {
        free(Arguments.notNull(file, "file"));
        this.file = file;
    }

    /**
     * Refuses a file or folder that cannot be made, before anybody is asked.
     *
     * @param what is to be written, to begin a sentence: "The records"
     * @throws MisuseException if there is something of that name already, or no folder to put it in
     */
    public static void check(Path file, String what) {
        Arguments.notNull(file, "file");
        Arguments.notBlank(what, "what");
        free(file);
        Path folder = file.toAbsolutePath().getParent();
        if (folder == null || !Files.isDirectory(folder)) {
            throw new MisuseException(
                    what + " cannot be written to " + file + ": there is no such file or folder.",
                    "Give a name in a folder that is there.");
        }
    }

    private static void free(Path file) {
        if (Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
            throw new MisuseException(file + " exists already, and nothing is overwritten.", "Give another name.");
        }
    }

    /** Makes it anew; what was written before is removed. */
    public Path create() throws IOException {
        discard();
        Path folder = file.toAbsolutePath().getParent();
        part = Files.createTempFile(folder, file.getFileName() + ".", ".part");
        return part;
    }

    /** Where it is written; where it will be while nothing is. */
    public Path part() {
        return part == null ? file : part;
    }

    /** Gives it its name. */
    public void complete() {
        Path written = part;
        if (written == null) {
            throw new IllegalStateException("nothing was written");
        }
        try {
            moved(written);
            part = null;
        } catch (IOException failed) {
            throw new UncheckedIOException(
                    "the file " + file + " could not be renamed, it is " + written.getFileName() + ": "
                            + failed.getMessage(),
                    failed);
        }
    }

    /** A link has its name in one step, and only where nothing else has it. */
    private void moved(Path written) throws IOException {
        try {
            Files.createLink(file, written);
        } catch (FileAlreadyExistsException taken) {
            throw new IOException("another file has the name by now", taken);
        } catch (IOException | UnsupportedOperationException noLinks) {
            Files.move(written, file);
            return;
        }
        Files.delete(written);
    }

    /** Removes what was written. */
    public void discard() {
        try {
            if (part != null) {
                Files.deleteIfExists(part);
                part = null;
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("the file " + part + " could not be removed", failed);
        }
    }
}
