// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.text;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;

/** What is wrong with a file, in words; of many faults Java says nothing but the file's name. */
public final class FileTrouble {

    private FileTrouble() {}

    /** To stand behind a colon, without a full stop. */
    public static String message(IOException failed) {
        if (failed instanceof NoSuchFileException) {
            return "there is no such file or folder";
        }
        if (failed instanceof AccessDeniedException) {
            return "access is denied";
        }
        if (failed instanceof CharacterCodingException) {
            return "it is no text in UTF-8";
        }
        if (String.valueOf(failed.getMessage()).endsWith("Is a directory")) {
            return "it is a folder";
        }
        String reason = failed instanceof FileSystemException system ? system.getReason() : null;
        String message = reason == null ? failed.getMessage() : reason;
        return message == null ? failed.getClass().getSimpleName() : message;
    }
}
