// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

/** Rows changed between being found and being removed. Caught inside the store and told as an ending. */
public final class ConcurrentChangeException extends RuntimeException {

    public ConcurrentChangeException(String detail) {
        super(detail);
    }
}
