// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import org.jspecify.annotations.Nullable;

/**
 * Remembers the head in a file of one line, which processes on one machine may share. It is as safe as the file: whoever
 * may write to it, too, can make it forget.
 */
public final class FileAnchor implements ChainAnchor {

    /** A file lock is one of the whole process. */
    private static final Object IN_THIS_PROCESS = new Object();

    private final Path file;

    /** @param file made with the first head; its folder has to be there */
    public FileAnchor(Path file) {
        this.file = Arguments.notNull(file, "file").toAbsolutePath();
    }

    /**
     * @throws MisuseException if the file is not one of a head
     * @throws UncheckedIOException if it cannot be read
     */
    @Override
    public @Nullable ChainHead remembered() {
        try {
            if (!Files.exists(file)) {
                return null;
            }
            if (Files.size(file) > 200) {
                throw new MisuseException(
                        "The file " + file + " is not one that remembers the head of a trail.", "Check the path.");
            }
            return ChainHead.read(Files.readString(file).strip());
        } catch (IOException failed) {
            throw unusable("read", failed);
        }
    }

    @Override
    public void remember(ChainHead head) {
        synchronized (IN_THIS_PROCESS) {
            Path beside = file.resolveSibling(file.getFileName() + ".lock");
            try (FileChannel channel = FileChannel.open(beside, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                    FileLock lock = channel.lock()) {
                ChainHead known = lock.isValid() ? remembered() : null;
                if (known == null || known.position() < head.position()) {
                    replace(head);
                }
            } catch (IOException failed) {
                throw unusable("written", failed);
            }
        }
    }

    /** Under another name first, so that a crash leaves the old line or the new one. */
    private void replace(ChainHead head) throws IOException {
        Path whole = Files.createTempFile(file.getParent(), file.getFileName().toString(), ".new");
        try (FileChannel out = FileChannel.open(whole, StandardOpenOption.WRITE)) {
            out.write(StandardCharsets.US_ASCII.encode(head + "\n"));
            out.force(true);
        }
        Files.move(whole, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    private UncheckedIOException unusable(String how, IOException failed) {
        return new UncheckedIOException(
                "the file " + file + ", which remembers up to where the trail is sealed, cannot be " + how + ": "
                        + failed.getMessage(),
                failed);
    }
}
