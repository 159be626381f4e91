// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

/** What was to be dropped is still there, or nobody knows. */
public final class NotDroppedException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    /** Why it was not dropped. */
    public enum Kind {
        /** The database refuses it, or it is not known how to keep others out. */
        REFUSED,
        /** Somebody else was there, or was just before. */
        BUSY,
        /** The connection was lost while it was being dropped. */
        UNKNOWN
    }

    private final Kind kind;

    NotDroppedException(Kind kind, String message, Throwable cause) {
        super(message, cause);
        this.kind = kind;
    }

    NotDroppedException(Kind kind, String message) {
        super(message);
        this.kind = kind;
    }

    public Kind kind() {
        return kind;
    }
}
