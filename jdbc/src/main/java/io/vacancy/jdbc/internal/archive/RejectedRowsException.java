// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.preview.Blocker;

/** Rows that would be restored violate a constraint that only the database knows. */
public final class RejectedRowsException extends RuntimeException {

    private final transient Blocker blocker;

    RejectedRowsException(Blocker blocker) {
        super(blocker.message());
        this.blocker = blocker;
    }

    /** The rows. */
    public Blocker blocker() {
        return blocker;
    }
}
