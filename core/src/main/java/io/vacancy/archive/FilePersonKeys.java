// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Keys of persons in a folder, a file for each, which its owner alone may read. The folder belongs on another machine than the
 * database, and into no backup that is kept for longer than a person may be remembered. Safe for several processes at once.
 */
public final class FilePersonKeys implements PersonKeys {

    private static final SecureRandom RANDOM = new SecureRandom();

    private final Path folder;

    /**
     * @param folder one that is there
     * @throws MisuseException if it is not
     */
    public FilePersonKeys(Path folder) {
        if (!Files.isDirectory(Arguments.notNull(folder, "folder"))) {
            throw new MisuseException(
                    "The folder of persons' keys " + folder + " is not there.", "Make it, for its owner alone.");
        }
        this.folder = folder;
    }

    @Override
    public PersonKey of(String table, List<String> key) {
        String id = id(table, key);
        PersonKey known = find(id);
        if (known != null) {
            return known;
        }
        byte[] secret = new byte[PersonKey.LENGTH];
        RANDOM.nextBytes(secret);
        try {
            // Whole or not at all, and the first of several wins.
            Path part = Files.createTempFile(folder, "part", ".tmp");
            try {
                Files.writeString(
                        part, Base64.getEncoder().encodeToString(secret), StandardOpenOption.TRUNCATE_EXISTING);
                if (Files.getFileStore(folder).supportsFileAttributeView("posix")) {
                    Files.setPosixFilePermissions(part, PosixFilePermissions.fromString("rw-------"));
                }
                Files.createLink(file(id), part);
            } catch (FileAlreadyExistsException other) {
                PersonKey theirs = find(id);
                return theirs == null ? of(table, key) : theirs;
            } catch (UnsupportedOperationException noLinks) {
                Files.move(part, file(id), StandardCopyOption.ATOMIC_MOVE);
            } finally {
                Files.deleteIfExists(part);
            }
        } catch (IOException failed) {
            throw new UncheckedIOException("A person's key could not be kept in " + folder, failed);
        }
        return PersonKey.of(id, secret);
    }

    @Override
    public @Nullable PersonKey find(String id) {
        if (!Arguments.notBlank(id, "id").matches("[0-9a-f]{64}")) {
            return null;
        }
        try {
            return PersonKey.of(
                    id, Base64.getDecoder().decode(Files.readString(file(id)).strip()));
        } catch (NoSuchFileException destroyed) {
            return null;
        } catch (IOException failed) {
            throw new UncheckedIOException("A person's key could not be read in " + folder, failed);
        }
    }

    /** Out of reach at once, then overwritten as far as the file system does that, then removed. */
    @Override
    public boolean destroy(String table, List<String> key) {
        String id = id(table, key);
        Path gone = folder.resolve(id + ".gone");
        try {
            // Nobody who reads it meanwhile finds half a key, also where this is killed.
            Files.move(file(id), gone, StandardCopyOption.ATOMIC_MOVE);
            Files.write(gone, new byte[64], StandardOpenOption.WRITE, StandardOpenOption.SYNC);
            Files.deleteIfExists(gone);
            return true;
        } catch (NoSuchFileException none) {
            return false;
        } catch (IOException failed) {
            throw new UncheckedIOException("A person's key could not be destroyed in " + folder, failed);
        }
    }

    private Path file(String id) {
        return folder.resolve(id + ".key");
    }

    /** A digest, so that names of files do not tell keys of rows. */
    private static String id(String table, List<String> key) {
        Arguments.notBlank(table, "table");
        Arguments.noneNull(key, "key");
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            digest.update(table.getBytes(StandardCharsets.UTF_8));
            for (String part : key) {
                byte[] bytes = part.getBytes(StandardCharsets.UTF_8);
                digest.update(("\0" + bytes.length + ":").getBytes(StandardCharsets.UTF_8));
                digest.update(bytes);
            }
            return HexFormat.of().formatHex(digest.digest());
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("every Java has SHA-256", impossible);
        }
    }
}
